import {
  Autocomplete,
  createFilterOptions,
  Dialog,
  DialogContent,
  DialogTitle,
  TextField,
} from '@mui/material';
import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import type { Floor } from '../api/queries.ts';

/** So many are offered at a time. */
const MOST_OFFERED = 50;

interface Place {
  code: string;
  words: string;
  href: string;
}

/** The open racks and the lots of a floor, as they are looked for: by code or by model. */
const placesOf = ({ racks, lots }: Pick<Floor, 'racks' | 'lots'>): Place[] => [
  ...racks.map(({ code, model }) => ({ code, words: `${code} · ${model}`, href: `/batch/${code}` })),
  ...lots.map((code) => ({ code, words: `${code} · lumber`, href: `/wood/lots/${code}` })),
];

/** Finds a rack or a lot from anywhere: by a piece of its code or its model, or by a scan that ends with Enter. */
export function Find({ floor, onClose }: { floor: Pick<Floor, 'racks' | 'lots'>; onClose: () => void }) {
  const navigate = useNavigate();
  const places = useMemo(() => placesOf(floor), [floor]);
  const go = (chosen: Place | string | null): void => {
    const href = typeof chosen === 'string' ? hrefOf(chosen, places) : chosen?.href;
    if (href === undefined) return;
    onClose();
    void navigate(href);
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="find">
      <DialogTitle id="find">Find a rack or a lot</DialogTitle>
      <DialogContent>
        <Autocomplete
          freeSolo
          autoHighlight
          openOnFocus
          options={places}
          getOptionLabel={(place) => (typeof place === 'string' ? place : place.words)}
          getOptionKey={(place) => (typeof place === 'string' ? place : place.code)}
          filterOptions={nearest}
          onChange={(_event, chosen) => go(chosen)}
          renderInput={(params) => (
            <TextField {...params} autoFocus label="Code or model" sx={{ marginTop: '6px' }} />
          )}
        />
      </DialogContent>
    </Dialog>
  );
}

const matching = createFilterOptions<Place>({ stringify: ({ words }) => words, trim: true });

/** What is called exactly so comes first: a scan of B-20 must not open B-200. */
function nearest(places: Place[], state: Parameters<typeof matching>[1]): Place[] {
  const typed = state.inputValue.trim().toUpperCase();
  const found = matching(places, state);
  const exact = found.filter(({ code }) => code === typed);
  return [...exact, ...found.filter(({ code }) => code !== typed)].slice(0, MOST_OFFERED);
}

/** A piece as its tag has it: its rack, its place. */
const PIECE = /^([A-Z]-\d+)\/(\d+)$/;

/**
 * The page of what was typed or scanned: the nearest; of a piece its passport, of a board its lot; of none of these: a rack that has
 * left has a page, too.
 */
function hrefOf(typed: string, places: Place[]): string | undefined {
  const code = typed.trim().toUpperCase();
  if (code === '') return undefined;
  const [, whole, place] = PIECE.exec(code) ?? [];
  if (whole?.startsWith('W-')) return `/wood/lots/${whole}`;
  if (whole !== undefined) return `/passport/${whole}/${Number(place)}`;
  const [first] = nearest(places, { inputValue: typed, getOptionLabel: ({ words }) => words });
  return first?.href ?? `/batch/${encodeURIComponent(code)}`;
}
