import { operationIndex, operationOf } from '@ample-crane/core';
import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { sayTime } from '../shared/time.ts';
import { AskChoice, asOptions, AskWords, Form, useDraft } from '../fields/index.ts';
import { Panel, Row } from '../parts/index.ts';
import { PieceChoice } from './PieceChoice.tsx';
import { useSendBack, type RackPage } from './queries.ts';
import { useFile } from './useFile.ts';
import { daysWords } from './words.ts';

const NOTHING = { operation: '', reason: '', to: '', cause: '' };

/** A slip sends the piece back, not the rack; what it costs when the rack waits for it, and when it goes on. */
export function SendBackForm({ page, nowMs }: { page: RackPage; nowMs: number }) {
  const { rack, route, state, zone } = page;
  const { file, busy, refusal } = useFile(rack.batch);
  const draft = useDraft(`send back of ${rack.batch}`, NOTHING);
  const asked = useWatch({ control: draft.form.control });
  const places = rack.views.filter(({ standing, next }) => standing !== 'onHold' || next === 'buff');
  const at =
    places.find(({ operation }) => operation === asked.operation)?.operation ?? places[0]?.operation ?? '';
  const [chosen, setChosen] = useState<number[]>([]);
  const known = page.defects.filter(
    (one, i) => page.defects.findIndex((other) => other.defect === one.defect) === i,
  );
  const here = state.pieces.filter((piece) => piece.operation === at && piece.standing !== 'scrapped');
  const usual = known.find((one) => one.defect === asked.reason)?.backTo ?? '';
  const targets = route.operations.filter(
    (one) => one.mode !== 'hold' && operationIndex(route, one.key) <= operationIndex(route, at),
  );
  const to = [asked.to, usual].find((key) => targets.some((one) => one.key === key)) ?? '';
  const pieces = chosen.filter((place) => here.some(({ position }) => position === place));
  const { data: costs } = useSendBack(rack.batch, { from: at, to, pieces });
  if (places.length === 0 || at === '') return null;
  const send =
    (rest: 'waits' | 'goes on') =>
    async ({ reason, cause }: typeof NOTHING): Promise<boolean> => {
      if (pieces.length === 0 || to === '') return false;
      const slip = { operation: at, pieces, reason, to, rest, cause: cause.trim() || 'not known' };
      const sent = await file({ type: 'rework', ...slip });
      if (sent) setChosen([]);
      return sent;
    };
  const ready = pieces.length > 0 && asked.reason !== '' && to !== '';
  return (
    <Panel label="Send pieces back">
      <Typography variant="h2">Send pieces back</Typography>
      <Typography color="textSecondary">
        A scrape slip, a sand-through: the piece goes back, the rack waits for it or goes on.
      </Typography>
      <Form draft={draft} refusal={refusal} onFile={send('goes on')}>
        {places.length > 1 && (
          <Row style={{ marginTop: 10 }}>
            <AskChoice
              name="operation"
              label="At"
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
          <AskChoice
            name="reason"
            label="What is wrong"
            options={asOptions(known.map((one) => one.defect))}
            needed="which fault"
            width={160}
          />
          <AskChoice
            name="to"
            label="Back to"
            options={targets.map(({ key, name }) => ({ value: key, words: name }))}
            {...(to === '' ? { needed: 'to where' } : { none: operationOf(route, to).name })}
            width={170}
          />
        </Row>
        <Box style={{ marginTop: 8 }}>
          <AskWords name="cause" label="What brought it about" />
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
          <Button type="submit" variant="contained" disabled={busy || pieces.length === 0}>
            Send back, rack goes on
          </Button>
          <Button disabled={busy || pieces.length === 0} onClick={() => void draft.submit(send('waits'))}>
            Send back, rack waits
          </Button>
        </Row>
      </Form>
    </Panel>
  );
}
