import { count, parseReadingsSheet, summarise } from '@ample-crane/core';
import { Box, Button, Link as MuiLink, Typography } from '@mui/material';
import { useMemo } from 'react';
import { useWatch } from 'react-hook-form';
import { fileReadings } from '../api/filing.ts';
import type { BatchDetail } from '../api/queries.ts';
import { sayTime } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { FileButton } from '../fields/FileButton.tsx';
import { AskText, AskTick, Form, useDraft } from '../fields/index.ts';
import { Panel, Quiet, Row } from '../parts/index.ts';

const SETS_SHOWN = 4;
const PROBLEMS_SHOWN = 6;

/** Moisture readings: what was read, and a place to paste or upload the next sheet. */
export function Readings({ batch, nowMs }: { batch: BatchDetail; nowMs: number }) {
  const sets = batch.state?.readings ?? [];
  const usesMoisture = batch.route.operations.some(
    (o) =>
      (o.mode === 'hold' && o.rule.rule === 'moisture') || (o.mode === 'gate' && o.gate.kind === 'moisture'),
  );
  if (!usesMoisture && sets.length === 0) return null;
  return (
    <Panel label="Moisture readings">
      <Row style={{ justifyContent: 'space-between' }}>
        <Typography variant="h2">Moisture readings</Typography>
        {sets.length > 0 && <MuiLink href={`/api/batches/${batch.code}/readings.csv`}>CSV</MuiLink>}
      </Row>
      {sets.length === 0 && (
        <Typography color="textSecondary">
          None yet. Type them in the log ({batch.code} read 7.1 7.2 7.1), or paste a sheet here.
        </Typography>
      )}
      {sets
        .slice(-SETS_SHOWN)
        .reverse()
        .map((set) => (
          <Typography key={set.atMs} style={{ margin: '6px 0' }}>
            <strong>
              {sayTime(set.atMs, batch.zone, nowMs)}: {set.valuesPct.length} read, mean{' '}
              {summarise(set.valuesPct).mean.toFixed(1)} %
            </strong>
            <br />
            <Quiet>{set.valuesPct.map((value) => value.toFixed(1)).join('  ')}</Quiet>
          </Typography>
        ))}
      <SheetForm batch={batch} />
    </Panel>
  );
}

function SheetForm({ batch }: { batch: BatchDetail }) {
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`readings of ${batch.code}`, { sheet: '', goodRowsOnly: false });
  const [sheet, goodRowsOnly] = useWatch({ control: draft.form.control, name: ['sheet', 'goodRowsOnly'] });
  const quantity = batch.state?.quantity ?? 0;
  const parsed = useMemo(
    () => (sheet.trim() === '' ? null : parseReadingsSheet(sheet, { quantity })),
    [sheet, quantity],
  );
  const good = parsed?.readings.length ?? 0;
  const bad = parsed?.problems.length ?? 0;
  return (
    <Form
      draft={draft}
      refusal={refusal}
      style={{ marginTop: 10 }}
      onFile={(asked) =>
        perform((by, key) => fileReadings(batch.code, by, key, asked.sheet, asked.goodRowsOnly), filedWords)
      }
    >
      <AskText
        name="sheet"
        label="Sheet of readings (CSV, or pasted cells)"
        placeholder={'piece,reading\n1,7.1\n2,7.4'}
      />
      {parsed && (
        <Box role="status" style={{ margin: '6px 0' }}>
          {good} good {good === 1 ? 'row' : 'rows'}
          {good > 0 && `, mean ${summarise(parsed.readings.map((r) => r.readingPct)).mean.toFixed(2)} %`}
          {bad > 0 && (
            <Box component="ul" sx={{ margin: '4px 0', color: 'error.main' }}>
              {parsed.problems.slice(0, PROBLEMS_SHOWN).map((problem) => (
                <li key={`${problem.row}${problem.column}${problem.message}`}>
                  row {problem.row}, column {problem.column}: {problem.message}
                </li>
              ))}
              {bad > PROBLEMS_SHOWN && <li>and {bad - PROBLEMS_SHOWN} more</li>}
            </Box>
          )}
        </Box>
      )}
      <Row style={{ marginTop: 6 }}>
        <FileButton
          words="Upload a CSV"
          accept=".csv,text/csv,text/plain"
          onFile={(file) => void file.text().then((text) => draft.form.setValue('sheet', text))}
        />
        {bad > 0 && good > 0 && (
          <AskTick name="goodRowsOnly" label={`File the ${good} good rows, leave out the rest`} />
        )}
        <Button type="submit" variant="contained" disabled={busy || good === 0 || (bad > 0 && !goodRowsOnly)}>
          File {good > 0 ? count(good, 'reading') : 'readings'}
        </Button>
      </Row>
    </Form>
  );
}
