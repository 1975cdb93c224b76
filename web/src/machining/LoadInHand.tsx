import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { sayTime } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { Bed } from '../devices/Bed.tsx';
import { Refused } from '../devices/Refused.tsx';
import { Form } from '../fields/Form.tsx';
import { Row } from '../parts/index.ts';
import { CheckSheet } from './CheckSheet.tsx';
import { lostPieces } from './lost.ts';
import type { LoadView, Mill, TableView } from './queries.ts';

/** The load that is on a table: since when, its first piece, and its end — all done unless said otherwise. */
export function LoadInHand({ load, table, mill }: { load: LoadView; table: TableView; mill: Mill }) {
  const { perform, busy, refused } = usePerform();
  const [lost, setLost] = useState('');
  const [reason, setReason] = useState('');
  const [because, setBecause] = useState('');
  const [sheet, setSheet] = useState(false);
  const { zone, nowMs } = mill;
  const told = lostPieces(lost, load.parts);
  // A piece is lost for a reason that somebody gave.
  const unsaid = lost.trim() !== '' && reason.trim() === '';
  const end = async (): Promise<void> => {
    if ('problem' in told || unsaid) return;
    const scrap = told.pieces.map((one) => ({ ...one, reason: reason.trim() }));
    await perform(
      (by, key) =>
        answered(
          server.POST('/api/loads/{code}/end', {
            params: { path: { code: load.code } },
            body: { key, by, scrap, ...(because.trim() === '' ? {} : { because: because.trim() }) },
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
      {load.against !== null && (
        <Typography className="attention">Not to go on yet: {load.against}.</Typography>
      )}
      {sheet && <CheckSheet load={load} onDone={() => setSheet(false)} />}
      <Form lay="stack" style={{ gap: 8, marginTop: 8 }} onFile={end}>
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
          <TextField
            label="Not good (pieces)"
            placeholder={`${load.parts[0]?.batch ?? 'B-1'}/3`}
            value={lost}
            onChange={(event) => setLost(event.target.value)}
            error={'problem' in told}
            helperText={'problem' in told ? told.problem : undefined}
            sx={{ width: 150 }}
          />
          {lost.trim() !== '' && (
            <TextField
              label="Why"
              value={reason}
              onChange={(event) => setReason(event.target.value)}
              sx={{ width: 150 }}
            />
          )}
          {load.against !== null && (
            <TextField
              label="End it although, because"
              value={because}
              onChange={(event) => setBecause(event.target.value)}
              sx={{ width: 220 }}
            />
          )}
          <Button
            type="submit"
            variant={load.against === null ? 'contained' : 'outlined'}
            disabled={busy || unsaid || 'problem' in told}
          >
            End {load.code}
          </Button>
        </Row>
      </Form>
      <Refused words={refused} />
    </Box>
  );
}
