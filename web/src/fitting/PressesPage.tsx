import { Box, Button, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { fileEntries, type EntryDraft } from '../api/filing.ts';
import { sayTime } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { cautionWords } from '@ample-crane/core';
import { Bed } from '../devices/Bed.tsx';
import { Caution } from '../devices/Caution.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { AskWords, Form, Leave, useDraft } from '../fields/index.ts';
import { Choice } from '../fields/Choice.tsx';
import { Columns, Opening, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { FittingNav } from './FittingNav.tsx';
import { usePresses, type BedView, type Coming, type Presses } from './queries.ts';

/** Presses, carousels and moulds: what lies in each and when it comes free; what wants a place. */
export default function PressesPage() {
  const { data, error } = usePresses();
  if (!data) return <Opening error={error} />;
  const stations = [...new Map(data.beds.map((bed) => [bed.station, bed.stationName]))];
  return (
    <Page title={<>Presses & clamps</>} tabs={<FittingNav />}>
      <Columns>
        <Stack>
          <FreeVerdict presses={data} />
          <Caution words={cautionWords('clamps')} />
          {stations.map(([station, name]) => (
            <Panel key={station} label={name}>
              <Typography variant="h2">{name}</Typography>
              <Box className="tables">
                {data.beds
                  .filter((bed) => bed.station === station)
                  .map((bed) => (
                    <BedPanel key={bed.code} bed={bed} presses={data} />
                  ))}
              </Box>
            </Panel>
          ))}
        </Stack>
        <Stack>
          <WantsPlace presses={data} />
        </Stack>
      </Columns>
    </Page>
  );
}

function FreeVerdict({ presses }: { presses: Presses }) {
  const { beds, coming, nowMs, zone } = presses;
  const over = beds.flatMap((bed) =>
    bed.lying.filter((group) => group.endMs !== null && group.endMs <= nowMs),
  );
  const next = beds
    .flatMap((bed) =>
      bed.nextFreeMs !== null && bed.nextFreeMs > nowMs ? [{ bed, atMs: bed.nextFreeMs }] : [],
    )
    .sort((a, b) => a.atMs - b.atMs)[0];
  const unplaced = coming
    .filter((one) => one.state === 'unplaced')
    .reduce((sum, one) => sum + one.pieces.length, 0);
  const words = [
    over.length > 0
      ? `${[...new Set(over.map((group) => group.batch))].join(', ')} may come out`
      : 'Nothing may come out yet',
    next ? `next free is ${next.bed.name}, ${sayTime(next.atMs, zone, nowMs)}` : '',
    unplaced > 0 ? `${unplaced} pieces rest in no place that anybody noted` : '',
  ].filter(Boolean);
  return <Verdict tone={over.length > 0 ? 'good' : 'hold'} sentence={`${words.join('; ')}.`} />;
}

function BedPanel({ bed, presses }: { bed: BedView; presses: Presses }) {
  const { zone, nowMs } = presses;
  return (
    <Box component="article" aria-label={bed.name}>
      <Typography variant="h3">
        {bed.name}{' '}
        <Quiet style={{ fontWeight: 400 }}>
          {bed.free} of {bed.places} free
          {bed.allFreeMs !== null &&
            bed.allFreeMs > nowMs &&
            `, all by ${sayTime(bed.allFreeMs, zone, nowMs)}`}
        </Quiet>
      </Typography>
      <Bed
        name={bed.name}
        places={bed.places}
        parts={bed.lying.map((group) => ({ batch: group.batch, pieces: group.pieces.length }))}
        working={bed.lying.some((group) => group.endMs === null || group.endMs > nowMs)}
      />
      {bed.lying.map((group) => (
        <LyingLine key={`${group.batch}${group.sinceMs}`} group={group} presses={presses} />
      ))}
    </Box>
  );
}

/** Pieces in a press: until when, and taking them out. Early needs a reason, which stays with them. */
function LyingLine({ group, presses }: { group: BedView['lying'][number]; presses: Presses }) {
  const { perform, busy, refused } = usePerform();
  const [early, setEarly] = useState(false);
  const { zone, nowMs } = presses;
  const over = group.endMs !== null && group.endMs <= nowMs;
  return (
    <Box style={{ marginTop: 4 }}>
      <Row style={{ justifyContent: 'space-between' }}>
        <span>
          <Link to={`/batch/${group.batch}`}>{group.batch}</Link> {group.operationName},{' '}
          {group.endMs === null
            ? 'no fixed end'
            : over
              ? 'over'
              : `until ${sayTime(group.endMs, zone, nowMs)}`}
        </span>
        {over ? (
          <Button
            variant="contained"
            disabled={busy}
            onClick={() => void perform((by, key) => takeOut(group, { by, key }), filedWords)}
          >
            Take out {group.pieces.length}
          </Button>
        ) : (
          !early && <Button onClick={() => setEarly(true)}>Take out early</Button>
        )}
      </Row>
      {early && !over && <OutEarly group={group} onDone={() => setEarly(false)} />}
      <Refused words={refused} />
    </Box>
  );
}

const takeOut = (
  { batch, operation, pieces }: BedView['lying'][number],
  { by, key, because }: { by: string; key: string; because?: string },
) =>
  fileEntries(batch, by, key, [
    { type: 'end', operation, pieces, ...(because === undefined ? {} : { because }) },
  ]);

function OutEarly({ group, onDone }: { group: BedView['lying'][number]; onDone: () => void }) {
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`out early ${group.batch} ${group.operation} ${group.sinceMs}`, { because: '' });
  const out = ({ because }: { because: string }): Promise<unknown> =>
    perform((by, key) => takeOut(group, { by, key, because: because.trim() }), filedWords);
  return (
    <Form draft={draft} refusal={refusal} lay="row" onFile={out}>
      <AskWords name="because" label="Why so early" needed="it stays with the pieces" width={190} />
      <Button type="submit" variant="contained" disabled={busy}>
        Take out
      </Button>
      <Leave draft={draft} onLeft={onDone} />
    </Form>
  );
}

function WantsPlace({ presses }: { presses: Presses }) {
  const unplaced = presses.coming.filter((one) => one.state === 'unplaced');
  const next = presses.coming.filter((one) => one.state === 'next');
  return (
    <Panel label="Wants a place">
      <Typography variant="h2">Wants a place</Typography>
      {unplaced.length + next.length === 0 && (
        <Typography color="textSecondary">Nothing rests unplaced, and nothing is on its way.</Typography>
      )}
      {unplaced.map((one) => (
        <PlaceLine key={`${one.batch}${one.operation}${one.sinceMs}`} one={one} presses={presses} />
      ))}
      {next.map((one) => (
        <PlaceLine
          key={`${one.batch}${one.operation}${one.sinceMs}${one.inHand}`}
          one={one}
          presses={presses}
        />
      ))}
    </Panel>
  );
}

/** Pieces that want a place: those on their hold in none that was noted, and those whose glue-up goes into a press next. */
function PlaceLine({ one, presses }: { one: Coming; presses: Presses }) {
  const { perform, busy, refused } = usePerform();
  const beds = presses.beds.filter((bed) => bed.station === one.station && bed.free > 0);
  const [chosen, setChosen] = useState(beds[0]?.code ?? '');
  const bed = beds.find(({ code }) => code === chosen) ?? beds[0];
  const pieces = one.pieces.slice(0, bed?.free ?? 0);
  const place = (): Promise<unknown> =>
    perform((by, key) => fileEntries(one.batch, by, key, placing(one, pieces, bed?.code ?? '')), filedWords);
  return (
    <Box style={{ marginTop: 8 }}>
      <Typography>
        <Link to={`/batch/${one.batch}`}>{one.batch}</Link>, {one.pieces.length}{' '}
        {one.state === 'next' ? `${one.inHand ? 'in hand' : 'waiting'} at` : 'on'} {one.operationName}
        {one.endMs !== null && `, until ${sayTime(one.endMs, presses.zone, presses.nowMs)}`}
      </Typography>
      {bed ? (
        <Row style={{ marginTop: 8 }}>
          <Choice
            label={one.state === 'next' ? 'Goes into' : 'Lies in'}
            value={bed.code}
            onChange={setChosen}
            options={beds.map(({ code, name, free }) => ({ value: code, words: `${name}, ${free} free` }))}
            width={190}
          />
          <Button
            variant={one.state === 'next' && one.inHand ? 'contained' : 'outlined'}
            disabled={busy}
            onClick={() => void place()}
          >
            {one.state === 'next' ? `Clamp ${pieces.length}` : `Note ${pieces.length} there`}
          </Button>
        </Row>
      ) : (
        <Typography color="textSecondary">
          No place is free{one.state === 'next' ? ' for it yet' : '; it stands in hand clamps'}.
        </Typography>
      )}
      <Refused words={refused} />
    </Box>
  );
}

/** What is filed to lay pieces in a press: the work before it is done with that, and its clock begins. */
function placing(one: Coming, pieces: number[], bed: string): EntryDraft[] {
  const here = { operation: one.operation, pieces };
  if (one.state === 'unplaced') return [{ type: 'place', ...here, bed }];
  return [
    ...(one.inHand ? [] : [{ type: 'start' as const, ...here }]),
    { type: 'done', ...here },
    { type: 'place', pieces, bed },
  ];
}
