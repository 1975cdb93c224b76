import {
  Autocomplete,
  createFilterOptions,
  Dialog,
  DialogContent,
  DialogTitle,
  TextField,
} from '@mui/material';
import { count } from '@ample-crane/core';
import { queryOptions, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { answered, server, type Schemas } from '../api/client.ts';
import { useNavigate } from 'react-router';
import type { Floor } from '../api/queries.ts';

/** Less is not looked for among all that ever were; more is no serial and no name. */
const [SHORTEST, LONGEST] = [2, 80];
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

/**
 * Finds from anywhere: an open rack or a lot by a piece of its code or its model, any instrument there ever was by its serial, an order or a
 * shipment by its number or by whom it is for; or by a scan that ends with Enter.
 */
export function Find({ floor, onClose }: { floor: Pick<Floor, 'racks' | 'lots'>; onClose: () => void }) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const { data: found } = useQuery({ ...findQuery(typed), placeholderData: (before) => before });
  const places = useMemo(() => [...placesOf(floor), ...(found ? foundPlaces(found) : [])], [floor, found]);
  const queries = useQueryClient();
  const leave = (href: string | undefined): void => {
    if (href === undefined) return;
    onClose();
    void navigate(href);
  };
  const go = (chosen: Place | string | null): void => {
    if (typeof chosen !== 'string') return leave(chosen?.href);
    const known = hrefOf(chosen, places);
    if (known !== undefined || chosen.trim() === '') return leave(known);
    // A scan ends with Enter before the server has been asked. What nobody knows may be a rack that has left, which has a page, too.
    void queries
      .fetchQuery(findQuery(chosen))
      .catch(() => NOTHING_FOUND)
      .then((answer) =>
        leave(
          hrefOf(chosen, foundPlaces(answer)) ?? `/batch/${encodeURIComponent(chosen.trim().toUpperCase())}`,
        ),
      );
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="find">
      <DialogTitle id="find">Find a rack, a lot, an instrument, an order, a part, a shipment</DialogTitle>
      <DialogContent>
        <Autocomplete
          freeSolo
          autoHighlight
          openOnFocus
          options={places}
          getOptionLabel={(place) => (typeof place === 'string' ? place : place.words)}
          getOptionKey={(place) => (typeof place === 'string' ? place : place.code)}
          filterOptions={nearest}
          onInputChange={(_event, words) => setTyped(words)}
          onChange={(_event, chosen) => go(chosen)}
          renderInput={(params) => (
            <TextField
              {...params}
              autoFocus
              label="Code, model, serial, order, customer or part"
              sx={{ marginTop: '6px' }}
            />
          )}
        />
      </DialogContent>
    </Dialog>
  );
}

type Found = Schemas['FoundDto'];

const NOTHING_FOUND: Found = { parts: [], instruments: [], shipments: [], orders: [] };

/** All instruments and shipments there ever were; words too short would find everything, words too long are no serial and no name. */
function findQuery(typed: string) {
  const said = typed.trim();
  return queryOptions({
    queryKey: ['find', said],
    queryFn: async () =>
      said.length < SHORTEST || said.length > LONGEST
        ? NOTHING_FOUND
        : await answered(server.GET('/api/find', { params: { query: { said } } })),
  });
}

const foundPlaces = ({ instruments, shipments, orders, parts }: Found): Place[] => [
  ...orders.map(({ code, customer, reference }) => ({
    code,
    words: [code, customer ?? 'for stock', reference].filter(Boolean).join(' · '),
    href: `/orders/${code}`,
  })),
  ...parts.map(({ code, name }) => ({
    code,
    words: `${code} · ${name}`,
    href: `/kits/parts/${code}`,
  })),
  ...instruments.map(({ serial, piece, batch, position, model }) => ({
    code: serial,
    words: `${serial} · ${model}, ${piece}`,
    href: `/passport/${batch}/${position}`,
  })),
  ...shipments.map(({ filing, to, order, pieces }) => ({
    code: filing,
    words: `${[order, to].filter(Boolean).join(' · ')} · ${count(pieces, 'instrument')} left`,
    href: `/assembly/shipping?days=365&shipment=${filing}`,
  })),
];

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

/** The page of what was typed or scanned: the nearest; of a piece its passport, of a board its lot; undefined where it is none of these. */
function hrefOf(typed: string, places: Place[]): string | undefined {
  const code = typed.trim().toUpperCase();
  if (code === '') return undefined;
  const [, whole, place] = PIECE.exec(code) ?? [];
  if (whole?.startsWith('W-')) return `/wood/lots/${whole}`;
  if (whole !== undefined) return `/passport/${whole}/${Number(place)}`;
  const [first] = nearest(places, { inputValue: typed, getOptionLabel: ({ words }) => words });
  return first?.href;
}
