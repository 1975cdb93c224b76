import {
  isInside,
  isYesNo,
  judgeSetup,
  limitsWords,
  saidIn,
  settleDrift,
  setupAdvice,
  signed,
  wordsIn,
  type Check,
} from '@ample-crane/core';
import { Box, Button, Typography } from '@mui/material';
import { useWatch } from 'react-hook-form';
import { fileEntries } from '../api/filing.ts';
import { LimitScale } from '../devices/LimitScale.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { AskNumber, AskWords, AskYesNo, Form, useDraft } from '../fields/index.ts';
import { Panel, PlainList, Quiet, Row } from '../parts/index.ts';
import { typedNumber } from '../shared/typed.ts';
import { useUnits } from '../shared/units.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import type { Sheet } from './queries.ts';
import { TONE } from './words.ts';

/** What is typed of a check as its value; undefined: nothing, or no number yet. */
const valueOf = (check: Check, typed: string | undefined): number | undefined =>
  isYesNo(check)
    ? typed === 'yes'
      ? 1
      : typed === 'no'
        ? 0
        : undefined
    : (typedNumber(typed ?? '') ?? undefined);

/** The sheet as it is filled in: a verdict that follows what is typed, each value beside its limits and the model's others. */
export function SheetForm({ sheet }: { sheet: Sheet }) {
  const { batch, position, operation, piece, values, checks, verdict, endsMs, nowMs } = sheet;
  const { perform, busy, refusal } = usePerform();
  const begin = Object.fromEntries([...checks.map(({ key }) => [key, '']), ['note', '']]) as Record<
    string,
    string
  >;
  const draft = useDraft(`sheet of ${piece} at ${operation}`, begin);
  const typed = useWatch({ control: draft.form.control });
  const now = valuesOf(checks, typed);
  const together = { ...values, ...now };
  const said = saidOf(sheet, together);
  const settles = endsMs !== null && nowMs < endsMs;
  // On the shelf nothing is turned.
  const turns = sheet.mode === 'attended' ? setupAdvice(together, checks, sheet.practice) : [];
  const file = async (filled: Record<string, string>): Promise<boolean> => {
    const read = valuesOf(checks, filled);
    if (Object.keys(read).length === 0) return false;
    const note = filled.note?.trim() ?? '';
    const entry = {
      ...{ type: 'sheet' as const, operation, pieces: [position], values: read },
      ...(note === '' ? {} : { note }),
    };
    return (await perform((by, key) => fileEntries(batch, by, key, [entry]), filedWords)) !== null;
  };
  const looked = checks.filter(isYesNo);
  const allRight = (): void => {
    for (const { key } of looked) draft.form.setValue(key, 'yes', { shouldDirty: true });
  };
  return (
    <Panel label="Bench sheet">
      <Verdict
        tone={Object.keys(now).length > 0 ? said.tone : TONE[verdict]}
        sentence={Object.keys(now).length > 0 ? said.sentence : sheet.words}
      >
        {turns.length > 0 && (
          <PlainList>
            {turns.map(({ key, words }) => (
              <Typography component="li" key={key}>
                {words}
              </Typography>
            ))}
            <Typography component="li" color="textSecondary">
              Your own practice and the maker’s words go before this advice.
            </Typography>
          </PlainList>
        )}
      </Verdict>
      {settles && (
        <Typography color="textSecondary" style={{ margin: '6px 0' }}>
          What is read while it settles is kept and does not count: the second look is due when its time is
          over.
        </Typography>
      )}
      <Form draft={draft} label="Bench sheet" refusal={refusal} style={{ marginTop: 10 }} onFile={file}>
        <Box sx={{ display: 'grid', gap: '4px' }}>
          {checks.map((check) => (
            <SheetRow key={check.key} sheet={sheet} check={check} now={now[check.key]} />
          ))}
        </Box>
        <Row style={{ marginTop: 10 }}>
          <AskWords name="note" label="What was turned, or seen" width={320} />
          {looked.length > 1 && <Button onClick={allRight}>All looked at and right</Button>}
          <Button type="submit" variant="contained" disabled={busy || Object.keys(now).length === 0}>
            File sheet of {piece}
          </Button>
        </Row>
      </Form>
    </Panel>
  );
}

function valuesOf(
  checks: readonly Check[],
  typed: Record<string, string | undefined>,
): Record<string, number> {
  return Object.fromEntries(
    checks.flatMap((check) => {
      const value = valueOf(check, typed[check.key]);
      return value === undefined ? [] : [[check.key, value]];
    }),
  );
}

/** What the sheet would say with what is typed, by the same rule the log goes by. */
function saidOf({ mode, checks, before, drifts }: Sheet, values: Record<string, number>) {
  const { verdict, sentence } =
    mode === 'hold'
      ? settleDrift(
          before,
          values,
          checks.map((check) => ({ check, drift: drifts[check.key] ?? null })),
        )
      : judgeSetup(values, checks);
  return { tone: TONE[verdict], sentence };
}

/** No number of a bench lies beyond, whatever its check. */
const MOST = 10_000;

function SheetRow({ sheet, check, now }: { sheet: Sheet; check: Check; now: number | undefined }) {
  const units = useUnits();
  const { key, name, unit, lower, upper, nominal } = check;
  const filed = sheet.values[key];
  const value = now ?? filed ?? null;
  const before = sheet.before[key] ?? null;
  const others = sheet.others[key] ?? [];
  const out = value !== null && !isInside(check, value);
  const drift = sheet.drifts[key];
  const digits = unit === 'cents' ? 1 : 2;
  const shown = (one: number): string => saidIn(one, unit, digits, units);
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'minmax(150px, 1.2fr) 150px minmax(120px, 1fr) 112px',
        gap: '12px',
        alignItems: 'center',
        borderTop: '1px solid var(--fibre)',
        padding: '6px 0',
        '@media (max-width: 700px)': { gridTemplateColumns: 'minmax(0, 1fr) 150px' },
      }}
    >
      <Box>
        <Typography component="strong" sx={{ fontWeight: 600 }}>
          {name}
        </Typography>
        <Quiet block>
          {wordsIn(limitsWords(check), units)}
          {drift !== undefined && `, may move ${shown(drift)}`}
        </Quiet>
      </Box>
      {isYesNo(check) ? (
        <AskYesNo name={key} label={name} />
      ) : (
        <AskNumber
          name={key}
          label={shortOf(name)}
          unit={unit}
          optional
          least={lower !== null && lower < 0 ? -MOST : 0}
          most={MOST}
          placeholder={filed === undefined ? undefined : String(filed)}
          width={150}
        />
      )}
      {isYesNo(check) ? (
        <span />
      ) : (
        <LimitScale
          {...{ lower, upper, nominal, value, before, others, outside: out }}
          words={`${name}: ${value === null ? 'not read' : shown(value)}; ${others.length} others of ${sheet.model} beside it`}
        />
      )}
      <Typography
        component="span"
        sx={{ fontWeight: out ? 700 : 400, color: out ? 'error.main' : undefined }}
      >
        {value === null ? (
          <Quiet>not read</Quiet>
        ) : isYesNo(check) ? (
          value === 1 ? (
            'right'
          ) : (
            'wrong'
          )
        ) : before !== null ? (
          `${signed(value - before)} since`
        ) : out ? (
          'outside'
        ) : (
          'inside'
        )}
      </Typography>
    </Box>
  );
}

/** What stands in the field: the whole name is beside it. */
const shortOf = (name: string): string => name.split(/,| at /)[0] ?? name;
