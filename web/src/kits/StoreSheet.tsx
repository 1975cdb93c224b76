import { parseStoreSheet } from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { useMemo } from 'react';
import { useWatch } from 'react-hook-form';
import { answered, server } from '../api/client.ts';
import { useFloor } from '../api/queries.ts';
import { FileButton } from '../fields/FileButton.tsx';
import { AskNumber, AskText, AskTick, Form, useDraft } from '../fields/index.ts';
import { Panel, Quiet, Row } from '../parts/index.ts';
import { numberOf } from '../shared/typed.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import type { Part } from './queries.ts';

const PROBLEMS_SHOWN = 4;
const HOUR_MS = 3_600_000;
const LONGEST_AGO_HOURS = 240;
const EMPTY = { sheet: '', goodRowsOnly: false, hoursAgo: '' };

const isoBefore = (ms: number, hours: number): string => new Date(ms - hours * HOUR_MS).toISOString();

/** The whole store at once: the sheet that was sent out comes back with what was counted, and with parts that are new. */
export function StoreSheet({ parts }: { parts: readonly Part[] }) {
  const { perform, busy, refusal } = usePerform();
  const { data: floor } = useFloor();
  const draft = useDraft('store sheet', EMPTY);
  const [sheet, goodRowsOnly] = useWatch({ control: draft.form.control, name: ['sheet', 'goodRowsOnly'] });
  const read = useMemo(() => (sheet.trim() === '' ? null : parseStoreSheet(sheet, parts)), [sheet, parts]);
  const good = read?.rows.length ?? 0;
  const bad = read?.problems ?? [];
  const file = async ({ hoursAgo, ...asked }: typeof EMPTY): Promise<boolean> => {
    const happenedAt =
      hoursAgo === '' || !floor ? {} : { happenedAt: isoBefore(floor.nowMs, numberOf(hoursAgo)) };
    const filed = await perform(
      (by, key) => answered(server.POST('/api/parts/sheet', { body: { by, key, ...asked, ...happenedAt } })),
      filedWords,
    );
    return filed !== null;
  };
  return (
    <Panel label="A whole sheet">
      <Typography variant="h2">A whole sheet</Typography>
      <Quiet block>
        Take the stock as CSV, fill in its last column, <em>counted</em>, and bring it back: what is left
        empty stays as it is. A row without a code is a new part. Whoever counted some hours ago says so: what
        kits took since is taken off.
      </Quiet>
      <Form
        draft={draft}
        label="A whole sheet"
        lay="stack"
        style={{ marginTop: 14 }}
        refusal={refusal}
        onFile={file}
      >
        <AskText
          name="sheet"
          label="CSV, or pasted cells"
          placeholder={'code,counted\nC-101,38\nC-102,12'}
          most={6}
        />
        {read && (
          <Typography role="status" className={bad.length > 0 ? 'attention' : undefined}>
            {good} {good === 1 ? 'part' : 'parts'} counted or new
            {bad.slice(0, PROBLEMS_SHOWN).map((one) => `; row ${one.row}, ${one.column}: ${one.message}`)}
            {bad.length > PROBLEMS_SHOWN && `; and ${bad.length - PROBLEMS_SHOWN} more`}
          </Typography>
        )}
        {bad.length > 0 && good > 0 && (
          <AskTick name="goodRowsOnly" label={`File the ${good} good rows, leave out the rest`} />
        )}
        <AskNumber
          name="hoursAgo"
          label="Counted so long ago"
          unit="h"
          least={0}
          most={LONGEST_AGO_HOURS}
          optional
          width={200}
        />
        <Row>
          <FileButton
            words="Upload a CSV"
            accept=".csv,text/csv,text/plain"
            onFile={(chosen) => void chosen.text().then((text) => draft.form.setValue('sheet', text))}
          />
          <Button type="submit" disabled={busy || good === 0 || (bad.length > 0 && !goodRowsOnly)}>
            File the sheet
          </Button>
        </Row>
      </Form>
    </Panel>
  );
}
