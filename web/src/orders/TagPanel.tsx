import { count, operationOf, tagHere, type BatchState, type Route, type TagLine } from '@ample-crane/core';
import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useState } from 'react';
import { fileEntries } from '../api/filing.ts';
import { Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { useOptionBooks } from './queries.ts';

/** Pieces that stand at one operation, with what their tags say there. */
interface Here {
  operation: string;
  tags: { position: number; lines: TagLine[] }[];
}

/** What the tags of a rack say where its pieces stand, and what was held against them. `only`: one piece of it. */
export function TagPanel({ state, route, only }: { state: BatchState; route: Route; only?: number }) {
  const places = placesOf(state, route, only);
  if (places.length === 0) return null;
  return (
    <Panel label="On the tags" stack>
      <Typography variant="h2">On the tags</Typography>
      {places.map((here) => (
        <Tags key={here.operation} state={state} route={route} here={here} />
      ))}
    </Panel>
  );
}

function placesOf(state: BatchState, route: Route, only: number | undefined): Here[] {
  const places = new Map<string, Here>();
  for (const piece of state.pieces) {
    if (!['waiting', 'inHand'].includes(piece.standing)) continue;
    if (only !== undefined && piece.position !== only) continue;
    const lines = tagHere(state, route, piece);
    if (lines.length === 0) continue;
    const here = places.get(piece.operation) ?? { operation: piece.operation, tags: [] };
    here.tags.push({ position: piece.position, lines });
    places.set(piece.operation, here);
  }
  return [...places.values()];
}

/** One option of the tags here: what it is to be, on which pieces, and how many of them nobody has confirmed. */
interface TagRow {
  option: string;
  name: string;
  built: boolean;
  values: { valueName: string; positions: number[]; right: number; wrong: number[] }[];
}

function rowsOf({ tags }: Here): TagRow[] {
  const rows = new Map<string, TagRow>();
  for (const { position, lines } of tags)
    for (const { option, name, built, valueName, confirmed } of lines) {
      const row = rows.get(option) ?? { option, name, built, values: [] };
      rows.set(option, row);
      let value = row.values.find((one) => one.valueName === valueName);
      if (!value) row.values.push((value = { valueName, positions: [], right: 0, wrong: [] }));
      value.positions.push(position);
      if (confirmed === true) value.right += 1;
      if (confirmed === false) value.wrong.push(position);
    }
  return [...rows.values()];
}

function Tags({ state, route, here }: { state: BatchState; route: Route; here: Here }) {
  const rows = rowsOf(here);
  const built = rows.filter((row) => row.built);
  return (
    <Box>
      <Typography sx={{ fontWeight: 600 }}>{operationOf(route, here.operation).name}</Typography>
      <Table size="small" aria-label={`Tags at ${operationOf(route, here.operation).name}`}>
        <TableHead>
          <TableRow>
            <TableCell>option</TableCell>
            <TableCell>the tag says</TableCell>
            <TableCell>places</TableCell>
            <TableCell>held against it</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.flatMap(({ option, name, built: isBuilt, values }) =>
            values.map(({ valueName, positions, right, wrong }, i) => (
              <TableRow key={`${option} ${valueName}`}>
                <TableCell>{i === 0 ? name : ''}</TableCell>
                <TableCell>
                  <strong>{valueName}</strong>
                </TableCell>
                <TableCell>{positions.join(', ')}</TableCell>
                <TableCell>
                  {!isBuilt && <Quiet>to know only</Quiet>}
                  {isBuilt && wrong.length > 0 && (
                    <strong className="attention">another on {wrong.join(', ')}: stop</strong>
                  )}
                  {isBuilt && wrong.length === 0 && `${right} of ${positions.length} confirmed`}
                </TableCell>
              </TableRow>
            )),
          )}
        </TableBody>
      </Table>
      {built.map(({ option, name }) => (
        <Confirm key={option} state={state} here={here} option={option} name={name} />
      ))}
    </Box>
  );
}

/** What is in the hand, said without looking at the tag first; then held against it. Two touches. */
function Confirm(props: { state: BatchState; here: Here; option: string; name: string }) {
  const { state, here, option, name } = props;
  const { data: books = [] } = useOptionBooks();
  const { perform, busy, refused } = usePerform();
  const [inHand, setInHand] = useState<string | null>(null);
  const open = here.tags.filter(({ lines }) =>
    lines.some((line) => line.option === option && line.confirmed !== true),
  );
  const sold = books.find(({ model }) => model === state.model)?.options.find(({ key }) => key === option);
  if (open.length === 0 || !sold) return null;
  const pieces = open.map(({ position }) => position);
  const hold = async (): Promise<void> => {
    if (inHand === null) return;
    const entry = { type: 'confirm' as const, operation: here.operation, option, value: inHand, pieces };
    const done = await perform((by, key) => fileEntries(state.code, by, key, [entry]), filedWords);
    if (done) setInHand(null);
  };
  return (
    <Box sx={{ marginTop: '8px' }} role="group" aria-label={`${name} in your hand`}>
      <Typography>{name} in your hand:</Typography>
      <Row style={{ marginTop: 4 }}>
        {sold.values.map(({ code, name: value }) => (
          <Button
            key={code}
            variant={inHand === code ? 'contained' : 'outlined'}
            aria-pressed={inHand === code}
            onClick={() => setInHand(code)}
          >
            {value}
          </Button>
        ))}
        <Button variant="contained" disabled={busy || inHand === null} onClick={() => void hold()}>
          Hold it against {count(pieces.length, 'tag')}
        </Button>
      </Row>
      <Refused words={refused} />
    </Box>
  );
}
