import { count, type BoardSize, type FirstCut } from '@ample-crane/core';
import { Button, MenuItem, Stack, TextField, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { useSetup } from '../api/queries.ts';
import { asOptions, Choice, useKeptState } from '../fields/index.ts';
import { NumberField } from '../fields/NumberField.tsx';
import { Columns, Page, Panel, Row } from '../parts/index.ts';
import { useUnits } from '../shared/units.ts';
import {
  bestOf,
  blanksOf,
  boardsText,
  isCuttingDraft,
  LOSSES,
  planned,
  typedBoards,
  USUAL_DRAFT,
  type Wanted,
} from './cutting.ts';
import { CutList } from './CutList.tsx';
import { CutListOffer, CuttingWay } from './CuttingWay.tsx';
import { useLots, useLot } from './queries.ts';
import { WoodNav } from './WoodNav.tsx';

const WAYS: { firstCut: FirstCut; name: string }[] = [
  { firstCut: 'crosscut', name: 'Crosscut first, then rip' },
  { firstCut: 'rip', name: 'Rip first, then crosscut' },
];
const TYPED = 'typed';
const SIDES = [
  ['lengthMm', 'length'],
  ['widthMm', 'width'],
  ['thicknessMm', 'thickness'],
] as const;
/** How many blanks boards give, drawn, by two ways of cutting beside each other. */
export default function YieldPage() {
  const { data: lots = [] } = useLots();
  const [source, setSource] = useState(TYPED);
  const { data: lot } = useLot(source, source !== TYPED);
  const [draft, setDraft] = useKeptState('cutting plan', USUAL_DRAFT, isCuttingDraft);
  const { wanted, allow } = draft;
  const ofLot = useMemo(
    () =>
      source === TYPED || !lot
        ? null
        : lot.state.boards.filter(({ status }) => status === 'stacked' || status === 'to-cut'),
    [source, lot],
  );
  const boards = useMemo<BoardSize[]>(
    () =>
      ofLot && lot
        ? ofLot.map(({ lengthMm, widthMm }) => ({ lengthMm, widthMm, thicknessMm: lot.state.thicknessMm }))
        : draft.boards,
    [ofLot, lot, draft.boards],
  );
  const blanks = useMemo(() => blanksOf(wanted), [wanted]);
  const plans = useMemo(
    () => WAYS.map(({ firstCut }) => planned(boards, blanks, allow, firstCut)),
    [boards, blanks, allow],
  );
  return (
    <Page title="Cutting plan" tabs={<WoodNav />}>
      <Columns>
        <Stack>
          {WAYS.map(({ firstCut, name }, i) => {
            const result = plans[i];
            return (
              result && (
                <CuttingWay key={firstCut} {...{ name, result }} sizes={blanks} best={bestOf(plans) === i}>
                  {ofLot && lot && !('problem' in result) && (
                    <CutListOffer name={name}>
                      <CutList lot={lot.state} plan={result} sizes={blanks} boards={ofLot} />
                    </CutListOffer>
                  )}
                </CuttingWay>
              )
            );
          })}
        </Stack>
        <Stack>
          <Panel stack label="Boards to cut">
            <Typography variant="h2">Boards</Typography>
            <TextField select label="From" value={source} onChange={(event) => setSource(event.target.value)}>
              <MenuItem value={TYPED}>sizes typed here</MenuItem>
              {lots
                .filter(({ stacked, toCut }) => stacked + toCut > 0)
                .map(({ code, species, thicknessMm }) => (
                  <MenuItem key={code} value={code}>
                    {code}: {species}, {thicknessMm} mm
                  </MenuItem>
                ))}
            </TextField>
            {source === TYPED && (
              <Boards
                boards={draft.boards}
                onChange={(typed) => setDraft((before) => ({ ...before, boards: typed }))}
              />
            )}
            <Typography color="textSecondary">{count(boards.length, 'board')}</Typography>
          </Panel>
          <Blanks wanted={wanted} onChange={(next) => setDraft((before) => ({ ...before, wanted: next }))} />
          <Panel label="Allowances">
            <Typography variant="h2">Lost on the way</Typography>
            <Row style={{ marginTop: 10 }}>
              {LOSSES.map(({ name, label, unit }) => (
                <NumberField
                  key={name}
                  {...{ label, unit }}
                  value={allow[name]}
                  onChange={(value) =>
                    setDraft((before) => ({ ...before, allow: { ...before.allow, [name]: value } }))
                  }
                />
              ))}
            </Row>
            <Typography color="textSecondary" style={{ marginTop: 8 }}>
              Saws and planers: guards on, hands outside the marked zone, extraction running. Follow your
              local codes and your safety officer; this is a reminder, not training.
            </Typography>
          </Panel>
        </Stack>
      </Columns>
    </Page>
  );
}

/** Sizes of boards, one a line, in the units of whoever types. */
function Boards({
  boards,
  onChange,
}: {
  boards: readonly BoardSize[];
  onChange: (boards: BoardSize[]) => void;
}) {
  const units = useUnits();
  const [typed, setTyped] = useState<{ text: string; units: typeof units } | null>(null);
  const text = typed?.units === units ? typed.text : boardsText(boards, units);
  const { wrong } = typedBoards(text, units);
  const sign = units.length === 'in' ? 'in' : 'mm';
  return (
    <TextField
      label={`One line each: length x width x thickness, ${sign}`}
      value={text}
      onChange={(event) => {
        setTyped({ text: event.target.value, units });
        onChange(typedBoards(event.target.value, units).boards);
      }}
      error={wrong.length > 0}
      helperText={wrong.length > 0 ? `line ${wrong.join(', ')}: three sizes, each above 0` : undefined}
      multiline
      minRows={3}
      maxRows={8}
    />
  );
}

/** The sizes of blanks that are wanted, those that are worth most first. */
function Blanks({ wanted, onChange }: { wanted: readonly Wanted[]; onChange: (wanted: Wanted[]) => void }) {
  const { data: setup } = useSetup();
  const letters = (setup?.kinds ?? []).flatMap(({ letter }) =>
    letter === 'W' || letter === 'I' ? [] : letter,
  );
  const set = (i: number, change: Partial<Wanted>): void =>
    onChange(wanted.map((one, j) => (i === j ? { ...one, ...change } : one)));
  return (
    <Panel stack label="Blanks wanted">
      <Typography variant="h2">Blanks</Typography>
      {wanted.map((one, i) => (
        <Stack key={i} sx={{ gap: '14px', marginBottom: '6px' }}>
          <Row>
            <Choice
              label="for"
              value={one.kind}
              onChange={(kind) => set(i, { kind })}
              options={asOptions([...new Set([...letters, one.kind])])}
              width={70}
            />
            <TextField
              label="name"
              value={one.name}
              onChange={(event) => set(i, { name: event.target.value })}
              slotProps={{ htmlInput: { 'aria-label': `name of blank ${i + 1}` } }}
              sx={{ flex: 1 }}
            />
          </Row>
          <Row>
            {SIDES.map(([side, label]) => (
              <NumberField
                key={side}
                label={label}
                spoken={`${label} of blank ${i + 1}`}
                unit="mm"
                value={one[side]}
                onChange={(value) => set(i, { [side]: value })}
                width={104}
              />
            ))}
          </Row>
        </Stack>
      ))}
      <Row>
        <Button
          onClick={() =>
            onChange([
              ...wanted,
              ...[
                { name: `size ${wanted.length + 1}`, kind: 'N', lengthMm: 500, widthMm: 90, thicknessMm: 24 },
              ],
            ])
          }
        >
          Another size
        </Button>
        {wanted.length > 1 && <Button onClick={() => onChange(wanted.slice(0, -1))}>Remove the last</Button>}
      </Row>
    </Panel>
  );
}
