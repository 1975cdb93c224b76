import { operationIndex, operationOf } from '@ample-crane/core';
import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useState } from 'react';
import { sayTime } from '../shared/time.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { asOptions, Choice } from '../fields/Choice.tsx';
import { Words } from '../fields/Words.tsx';
import { Panel, Row } from '../parts/index.ts';
import { PieceChoice } from './PieceChoice.tsx';
import { useSendBack, type RackPage } from './queries.ts';
import { useFile } from './useFile.ts';
import { daysWords } from './words.ts';

/** A slip sends the piece back, not the rack; what it costs when the rack waits for it, and when it goes on. */
export function SendBackForm({ page, nowMs }: { page: RackPage; nowMs: number }) {
  const { rack, route, state, zone } = page;
  const { file, busy, refused } = useFile(rack.batch);
  const places = rack.views.filter(({ standing, next }) => standing !== 'onHold' || next === 'buff');
  const [from, setFrom] = useState('');
  const at = places.find(({ operation }) => operation === from)?.operation ?? places[0]?.operation ?? '';
  const [chosen, setChosen] = useState<number[]>([]);
  const [defect, setDefect] = useState('');
  const [cause, setCause] = useState('');
  const known = page.defects.filter(
    (one, i) => page.defects.findIndex((other) => other.defect === one.defect) === i,
  );
  const here = state.pieces.filter((piece) => piece.operation === at && piece.standing !== 'scrapped');
  const usual = known.find((one) => one.defect === defect)?.backTo ?? '';
  const [chosenTo, setChosenTo] = useState('');
  const targets = route.operations.filter(
    (one) => one.mode !== 'hold' && operationIndex(route, one.key) <= operationIndex(route, at),
  );
  const to = [chosenTo, usual].find((key) => targets.some((one) => one.key === key)) ?? '';
  const pieces = chosen.filter((place) => here.some(({ position }) => position === place));
  const { data: costs } = useSendBack(rack.batch, { from: at, to, pieces });
  if (places.length === 0 || at === '') return null;
  const send = async (rest: 'waits' | 'goes on'): Promise<void> => {
    const sent = await file({
      type: 'rework',
      operation: at,
      pieces,
      reason: defect,
      to,
      rest,
      ...(cause.trim() ? { cause: cause.trim() } : { cause: 'not known' }),
    });
    if (sent) {
      setChosen([]);
      setCause(unlessTypedSince(cause));
    }
  };
  const ready = pieces.length > 0 && defect !== '' && to !== '';
  return (
    <Panel label="Send pieces back">
      <Typography variant="h2">Send pieces back</Typography>
      <Typography color="textSecondary">
        A scrape slip, a sand-through: the piece goes back, the rack waits for it or goes on.
      </Typography>
      {places.length > 1 && (
        <Row style={{ marginTop: 10 }}>
          <Choice
            label="At"
            value={at}
            onChange={setFrom}
            options={places.map(({ operation, operationName }) => ({
              value: operation,
              words: operationName,
            }))}
            width={200}
          />
        </Row>
      )}
      <Box style={{ margin: '6px 0' }}>
        <PieceChoice
          places={here.map(({ position }) => position)}
          chosen={pieces}
          onChoose={setChosen}
          label="Pieces that go back"
        />
      </Box>
      <Row>
        <Choice
          label="What is wrong"
          value={defect}
          onChange={setDefect}
          options={asOptions(known.map((one) => one.defect))}
          width={160}
        />
        <Choice
          label="Back to"
          value={to}
          onChange={setChosenTo}
          options={targets.map(({ key, name }) => ({ value: key, words: name }))}
          width={150}
        />
      </Row>
      <Box style={{ marginTop: 8 }}>
        <Words label="What brought it about" value={cause} onChange={setCause} />
      </Box>
      {costs && ready && (
        <Box style={{ marginTop: 8 }}>
          <Typography>
            Back at {operationOf(route, at).name} in {daysWords(costs.loopDays)},{' '}
            {sayTime(costs.backMs, zone, nowMs)}.
          </Typography>
          <Table>
            <TableHead>
              <TableRow>
                <TableCell scope="col" />
                <TableCell scope="col">rack through</TableCell>
                <TableCell scope="col">late</TableCell>
                <TableCell scope="col">costs</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              <TableRow>
                <TableCell component="th" scope="row">
                  Rack waits
                </TableCell>
                <TableCell>{sayTime(costs.waits.rackEndMs, zone, nowMs)}</TableCell>
                <TableCell>
                  {costs.waits.rackLateDays > 0 ? daysWords(costs.waits.rackLateDays) : 'no'}
                </TableCell>
                <TableCell>
                  {costs.rest} pieces wait {daysWords(costs.loopDays)}
                </TableCell>
              </TableRow>
              <TableRow>
                <TableCell component="th" scope="row">
                  Rack goes on
                </TableCell>
                <TableCell>{sayTime(costs.goesOn.rackEndMs, zone, nowMs)}</TableCell>
                <TableCell>
                  {costs.goesOn.rackLateDays > 0 ? daysWords(costs.goesOn.rackLateDays) : 'no'}
                  {costs.goesOn.sentLateDays > 0 && `, the pieces ${daysWords(costs.goesOn.sentLateDays)}`}
                </TableCell>
                <TableCell>
                  pieces {sayTime(costs.goesOn.sentEndMs, zone, nowMs)}, {costs.goesOn.setUpMinutes} min of
                  set-ups again
                </TableCell>
              </TableRow>
            </TableBody>
          </Table>
        </Box>
      )}
      <Row style={{ marginTop: 8 }}>
        <Button variant="contained" disabled={busy || !ready} onClick={() => void send('goes on')}>
          Send back, rack goes on
        </Button>
        <Button disabled={busy || !ready} onClick={() => void send('waits')}>
          Send back, rack waits
        </Button>
      </Row>
      <Refused words={refused} />
    </Panel>
  );
}
