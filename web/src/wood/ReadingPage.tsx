import {
  asTaken,
  gateSentence,
  judgeSample,
  METER_RESOLVES,
  takenReadings,
  type TakenReading,
} from '@ample-crane/core';
import {
  Box,
  Button,
  ButtonBase,
  InputBase,
  InputLabel,
  MenuItem,
  Stack,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { useMemo, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import { fileEntries } from '../api/filing.ts';
import { useBatch } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { isText, PlainForm, unitSlots, useKeptState, useTurned } from '../fields/index.ts';
import { Words } from '../fields/Words.tsx';
import { EmptyState, Opening, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { useLot, useMeters, useRackDrying, type Meter } from './queries.ts';
import { typedNumber } from '../shared/typed.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { correctionOf, lineWords } from './reading.ts';
import { SheetForm } from './SheetForm.tsx';
import { useWoodFiling } from './useWoodFiling.ts';
import { pct, toneOf } from './words.ts';
import './ReadingPage.css';

/** What is read: a lot's boards, or a rack's pieces. */
interface Stack {
  code: string;
  what: 'board' | 'piece';
  species: string | null;
  numbers: number[];
  /** Which to read first. */
  readNext: number[];
  window: { lowPct: number; highPct: number };
  /** What was read of it before: a sheet is judged with it, as it will be once it is filed. */
  before: TakenReading[];
  nowMs: number;
}

/** What the meter showed of one board or piece. */
interface Typed {
  number: number;
  readingPct: number;
}

interface Read extends Typed {
  correctedPct: number;
}

const isNumber = (value: unknown): boolean => typeof value === 'number' && Number.isFinite(value);
const areTyped = (kept: unknown): kept is Typed[] =>
  Array.isArray(kept) &&
  kept.every((one: Partial<Typed> | null) => isNumber(one?.number) && isNumber(one?.readingPct));
const isDepth = (kept: unknown): kept is 'shell' | 'core' => kept === 'shell' || kept === 'core';
/** A sheet for somebody at the stack with a meter: one big field, Enter goes to the next board. */
export default function ReadingPage() {
  const { code = '' } = useParams();
  return code.startsWith('W-') ? <LotReading code={code} /> : <RackReading code={code} />;
}

function LotReading({ code }: { code: string }) {
  const { data: lot, error } = useLot(code);
  const { data: meters } = useMeters();
  const stack = useMemo<Stack | null>(
    () =>
      lot
        ? {
            ...{ code, what: 'board', species: lot.state.species, window: lot.drying.window },
            numbers: lot.state.boards.filter((b) => b.status === 'stacked').map((b) => b.number),
            readNext: lot.judged.readNext,
            ...{ before: asTaken(lot.judged.readings), nowMs: lot.drying.nowMs },
          }
        : null,
    [code, lot],
  );
  if (!stack || !meters) return <Opening error={error} />;
  if (stack.numbers.length === 0)
    return <EmptyState>{code} has no board in the stack any more: nothing is left to read.</EmptyState>;
  return <Sheet key={code} stack={stack} meters={meters} />;
}

function RackReading({ code }: { code: string }) {
  const { data: batch, error } = useBatch(code);
  const { data: drying } = useRackDrying(code, batch !== undefined);
  const { data: meters } = useMeters();
  const state = batch?.state;
  const stack = useMemo<Stack | null>(() => {
    if (!state) return null;
    const numbers = state.pieces
      .filter(({ standing }) => standing === 'onHold' || standing === 'waiting' || standing === 'inHand')
      .map(({ position }) => position);
    const window = drying?.window ?? { lowPct: 6, highPct: 8.5 };
    const resting = state.pieces.find(({ standing }) => standing === 'onHold');
    const before = resting
      ? takenReadings(state.readings, { sinceMs: resting.sinceMs, atMs: batch.nowMs })
      : [];
    return {
      ...{ code, what: 'piece', species: drying?.species ?? null, numbers, readNext: numbers, window },
      ...{ before, nowMs: batch.nowMs },
    };
  }, [code, state, batch?.nowMs, drying]);
  if (!stack || !meters) return <Opening error={error} />;
  if (stack.numbers.length === 0) return <EmptyState>No piece of {code} is left to read.</EmptyState>;
  return <Sheet key={code} stack={stack} meters={meters} />;
}

function Sheet({ stack, meters }: { stack: Stack; meters: readonly Meter[] }) {
  const { perform, fileLot, busy, refused } = useWoodFiling();
  // The meter that was tested on this wood, if one was.
  const [meter, setMeter] = useKeptState(
    `meter for ${stack.code}`,
    (meters.find((own) => own.calibrations.some((c) => c.line && c.species === stack.species)) ?? meters[0])
      ?.code ?? '',
    (kept): kept is string => meters.some(({ code }) => code === kept),
  );
  const [depth, setDepth] = useKeptState<'shell' | 'core'>(`depth of ${stack.code}`, 'shell', isDepth);
  const [temperature, setTemperature] = useKeptState(`wood of ${stack.code}`, '21', isText);
  const [typed, setTyped] = useKeptState<Typed[]>(`reading of ${stack.code}`, [], areTyped);
  const [text, setText] = useState('');
  const [because, setBecause] = useKeptState(`why of ${stack.code}`, '', isText);
  const [chosen, setChosen] = useState<number | null>(null);
  const wood = useTurned(temperature, setTemperature, { unit: '°C' });
  const field = useRef<HTMLInputElement>(null);
  const { line, words, warn } = lineWords(meters, meter, stack.species);
  const woodTemperatureC = typedNumber(temperature);
  // Corrected by the meter and the wood that stand there now: so it is filed.
  const read = useMemo(
    () =>
      typed.map((one): Read => ({
        ...one,
        correctedPct: correctionOf(one.readingPct, woodTemperatureC, line).correctedPct,
      })),
    [typed, woodTemperatureC, line],
  );

  const done = new Set(read.map(({ number }) => number));
  const open = [...new Set([...stack.readNext, ...stack.numbers])].filter((number) => !done.has(number));
  const here = chosen ?? open[0] ?? null;
  const value = typedNumber(text);
  const possible = value !== null && value >= 0 && value <= 100;
  const correction = possible ? correctionOf(value, woodTemperatureC, line) : null;
  const { judgement } = useMemo(() => {
    const now = read.map(({ number, readingPct, correctedPct }): TakenReading => ({
      ...{ atMs: stack.nowMs, piece: number, depth, shownPct: readingPct, pct: correctedPct },
      ...{ floorPct: null, explained: because.trim() !== '' },
    }));
    return judgeSample([...stack.before, ...now], stack.numbers, stack.window);
  }, [read, stack, depth, because]);
  const doubted = judgement.setAside.length > 0 || because !== '';
  const next = (): void => {
    if (here === null || value === null || correction === null) return;
    setTyped([...typed.filter(({ number }) => number !== here), { number: here, readingPct: value }]);
    setText('');
    setChosen(null);
    field.current?.focus();
  };
  const file = async (): Promise<void> => {
    const explained = because.trim() === '' ? {} : { because: because.trim() };
    const filed =
      stack.what === 'board'
        ? await fileLot(stack.code, {
            ...{ type: 'lot-read', meter, depth, woodTemperatureC, ...explained },
            readings: read.map(({ number, readingPct }) => ({ board: number, readingPct })),
          })
        : await perform(
            (by, key) =>
              fileEntries(stack.code, by, key, [
                {
                  ...{ type: 'read', meter, depth, ...explained },
                  ...(woodTemperatureC === null ? {} : { woodTemperatureC }),
                  valuesPct: read.map(({ readingPct }) => readingPct),
                  pieces: read.map(({ number }) => number),
                },
              ]),
            (answer) => `Filed. ${answer.sentence}`,
          );
    // What was typed meanwhile is not filed yet.
    if (!filed) return;
    setTyped((now) => now.filter((entry) => !typed.includes(entry)));
    setBecause(unlessTypedSince(because));
  };
  const badTemperature = temperature.trim() !== '' && woodTemperatureC === null;
  return (
    <Page
      title={<>Read {stack.code}</>}
      tabs={
        <>
          <Quiet>
            {stack.species ?? 'wood not named'} · {stack.numbers.length} {stack.what}s · gate{' '}
            {pct(stack.window.lowPct)}–{pct(stack.window.highPct)} %
          </Quiet>
          <Link to={stack.what === 'board' ? `/wood/lots/${stack.code}` : `/batch/${stack.code}`}>
            Back to {stack.code}
          </Link>
        </>
      }
    >
      <Box className="readingpage">
        <Stack>
          <Panel className="readingform">
            <Row>
              <TextField
                select
                label="Meter"
                value={meter}
                onChange={(event) => setMeter(event.target.value)}
                sx={{ minWidth: 210 }}
              >
                {meters.map(({ code, name }) => (
                  <MenuItem key={code} value={code}>
                    {code}: {name}
                  </MenuItem>
                ))}
              </TextField>
              <TextField
                label="Wood"
                value={wood.text}
                onChange={(event) => wood.type(event.target.value)}
                error={badTemperature}
                helperText={badTemperature ? 'no number' : undefined}
                sx={{ width: 110 }}
                slotProps={unitSlots('Wood', wood.sign)}
              />
              <ToggleButtonGroup
                exclusive
                value={depth}
                onChange={(_, which: 'shell' | 'core' | null) => which && setDepth(which)}
                aria-label="How deep the pins go"
              >
                <ToggleButton value="shell">Shell</ToggleButton>
                <ToggleButton value="core">Core</ToggleButton>
              </ToggleButtonGroup>
            </Row>
            <Typography
              className={warn ? undefined : 'quiet'}
              style={warn ? { color: 'var(--shellacText)' } : undefined}
            >
              {words}.
            </Typography>
            <PlainForm className="bigreading" onFile={next}>
              <InputLabel htmlFor="reading" className="readinglabel">
                {here === null ? `every ${stack.what} is read` : `${stack.what} ${here}`}
              </InputLabel>
              <InputBase
                id="reading"
                inputRef={field}
                value={text}
                autoFocus
                autoComplete="off"
                inputProps={{ inputMode: 'decimal', 'aria-describedby': 'meaning' }}
                disabled={here === null}
                placeholder="%"
                onChange={(event) => setText(event.target.value)}
              />
              <Button
                type="submit"
                variant="contained"
                disabled={here === null || !possible}
                sx={{ minWidth: 120, fontSize: 18 }}
              >
                Next
              </Button>
            </PlainForm>
            <Typography id="meaning" role="status" className="meaning">
              {meaning(text, correction)}
            </Typography>
          </Panel>
          <Verdict tone={toneOf(judgement.verdict)} sentence={gateSentence(judgement, stack.window)}>
            <Typography color="textSecondary">
              {read.length} of {stack.numbers.length} read
              {open.length > 0 && `, read next: ${open.slice(0, 8).join(', ')}`}
              {open.length > 8 && '…'}
            </Typography>
          </Verdict>
          {doubted && (
            <Words
              label="To be believed as read, because"
              value={because}
              onChange={setBecause}
              width={360}
            />
          )}
          <Row>
            <Button
              variant="contained"
              disabled={busy || read.length === 0 || badTemperature}
              onClick={() => void file()}
              sx={{ minHeight: 48, fontSize: 16 }}
            >
              File {read.length} {read.length === 1 ? 'reading' : 'readings'}
            </Button>
            {read.length > 0 && <Quiet>Nothing is filed yet.</Quiet>}
          </Row>
          <Refused words={refused} />
        </Stack>
        <Panel label={`The ${stack.what}s`}>
          <Typography variant="h2">Stack</Typography>
          <Box className="readinggrid">
            {stack.numbers.map((number) => {
              const own = read.find((r) => r.number === number);
              const outside =
                own && (own.correctedPct > stack.window.highPct || own.correctedPct < stack.window.lowPct);
              return (
                <ButtonBase
                  key={number}
                  className={`${own ? (outside ? 'fail' : 'pass') : ''}${number === here ? ' here' : ''}`}
                  aria-pressed={number === here}
                  aria-label={`${stack.what} ${number}${own ? `, ${pct(own.correctedPct)} %` : ', not read'}`}
                  onClick={() => {
                    setChosen(number);
                    setText(own ? String(own.readingPct) : '');
                    field.current?.focus();
                  }}
                >
                  <span>{number}</span>
                  <b>{own ? pct(own.correctedPct) : ''}</b>
                </ButtonBase>
              );
            })}
          </Box>
          {stack.what === 'board' && (
            <SheetForm lot={stack.code} meter={meter} depth={depth} woodTemperatureC={woodTemperatureC} />
          )}
        </Panel>
      </Box>
    </Page>
  );
}

function meaning(text: string, correction: ReturnType<typeof correctionOf> | null): string {
  if (text.trim() === '') return 'Type what the meter shows; Enter goes to the next.';
  if (!correction) return `'${text.trim()}' is no moisture: a number from 0 to 100.`;
  const { correctedPct, temperaturePct, linePct } = correction;
  const shown = typedNumber(text) ?? 0;
  const signed = (value: number): string => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(2)}`;
  const doubt =
    shown < METER_RESOLVES.lowPct || shown > METER_RESOLVES.highPct
      ? ' Outside what a pin meter resolves: kept, and set aside until it is read again or explained.'
      : '';
  return `= ${correctedPct.toFixed(2)} % (temperature ${signed(temperaturePct)}, species line ${signed(linePct)}).${doubt}`;
}
