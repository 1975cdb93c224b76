import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { answered, server } from '../api/client.ts';
import { sayTime } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { Bed } from '../devices/Bed.tsx';
import { AskWords, Form, useDraft } from '../fields/index.ts';
import { TagsHere } from '../orders/TagsHere.tsx';
import { Row } from '../parts/index.ts';
import { maybeWords } from '../shared/typed.ts';
import { CheckSheet } from './CheckSheet.tsx';
import { lostPieces } from './lost.ts';
import type { LoadView, Mill, TableView } from './queries.ts';

const NOTHING_LOST = { lost: '', reason: '', because: '' };

/** The load that is on a table: since when, its first piece, and its end — all done unless said otherwise. */
export function LoadInHand({ load, table, mill }: { load: LoadView; table: TableView; mill: Mill }) {
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`end of ${load.code}`, NOTHING_LOST);
  const lost = useWatch({ control: draft.form.control, name: 'lost' });
  const [sheet, setSheet] = useState(false);
  const { zone, nowMs } = mill;
  const end = ({ lost: text, reason, because }: typeof NOTHING_LOST): unknown => {
    const told = lostPieces(text, load.parts);
    if ('problem' in told) return false;
    const scrap = told.pieces.map((one) => ({ ...one, reason: reason.trim() }));
    return perform(
      (by, key) =>
        answered(
          server.POST('/api/loads/{code}/end', {
            params: { path: { code: load.code } },
            body: { key, by, scrap, ...maybeWords('because', because) },
          }),
        ),
      filedWords,
    );
  };
  const overdue = load.endMs < nowMs;
  return (
    <Box>
      <Bed
        name={table.name}
        places={table.places}
        parts={load.parts.map(({ batch, pieces }) => ({ batch, pieces: pieces.length }))}
        working
      />
      <Typography>
        <strong>{load.code}</strong> on {load.program}, since {sayTime(load.startedMs, zone, nowMs)},{' '}
        <span style={{ color: overdue ? 'var(--oxblood)' : undefined }}>
          {overdue ? 'was to be off' : 'off'} {sayTime(load.endMs, zone, nowMs)}
        </span>
        {load.firstPiece && load.against === null && '; first piece passed'}
      </Typography>
      {[...new Set(load.parts.map(({ batch }) => batch))].map((batch) => (
        <TagsHere key={batch} stage="machining" batch={batch} />
      ))}
      {load.against !== null && (
        <Typography className="attention">Not to go on yet: {load.against}.</Typography>
      )}
      {sheet && <CheckSheet load={load} onDone={() => setSheet(false)} />}
      <Form draft={draft} refusal={refusal} lay="stack" style={{ gap: 8, marginTop: 8 }} onFile={end}>
        <Row>
          {load.checks.length > 0 && (
            <Button
              variant={load.against === null ? 'outlined' : 'contained'}
              onClick={() => setSheet(!sheet)}
            >
              {load.against === null
                ? 'Measure'
                : load.firstPiece
                  ? 'Measure the first piece'
                  : `Measure ${load.code}`}
            </Button>
          )}
          <AskWords
            name="lost"
            label="Not good (pieces)"
            wrong={(text) => {
              const told = lostPieces(text, load.parts);
              return 'problem' in told ? told.problem : undefined;
            }}
            placeholder={`${load.parts[0]?.batch ?? 'B-1'}/3`}
            width={170}
          />
          {lost.trim() !== '' && (
            <AskWords name="reason" label="Why" needed="a piece is lost for a reason" width={170} />
          )}
          {load.against !== null && <AskWords name="because" label="End it although, because" width={220} />}
          <Button type="submit" variant={load.against === null ? 'contained' : 'outlined'} disabled={busy}>
            End {load.code}
          </Button>
        </Row>
      </Form>
    </Box>
  );
}
