import {
  count,
  operationOf,
  tagsOf,
  type BatchState,
  type Route,
  type TagOption,
  type TagsThere,
} from '@ample-crane/core';
import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useState } from 'react';
import { fileEntries } from '../api/filing.ts';
import { Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { useOptionBooks } from './queries.ts';

/** What the tags of a rack say where its pieces stand, and what was held against them. `only`: one piece of it. */
export function TagPanel({ state, route, only }: { state: BatchState; route: Route; only?: number }) {
  const places = tagsOf(state, route, only);
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

function Tags({ state, route, here }: { state: BatchState; route: Route; here: TagsThere }) {
  const built = here.options.filter((one) => one.built);
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
          {here.options.flatMap(({ option, name, built: isBuilt, values }) =>
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
                  {isBuilt && wrong.length === 0 && `${right.length} of ${positions.length} confirmed`}
                </TableCell>
              </TableRow>
            )),
          )}
        </TableBody>
      </Table>
      {built.map((option) => (
        <Confirm key={option.option} state={state} operation={here.operation} of={option} />
      ))}
    </Box>
  );
}

/** What is in the hand, said without looking at the tag first; then held against it. Two touches. */
function Confirm({ state, operation, of }: { state: BatchState; operation: string; of: TagOption }) {
  const { option, name } = of;
  const { data: books = [] } = useOptionBooks();
  const { perform, busy, refused } = usePerform();
  const [inHand, setInHand] = useState<string | null>(null);
  const pieces = of.values
    .flatMap(({ positions, right }) => positions.filter((position) => !right.includes(position)))
    .toSorted((a, b) => a - b);
  const sold = books.find(({ model }) => model === state.model)?.options.find(({ key }) => key === option);
  if (pieces.length === 0 || !sold) return null;
  const hold = async (): Promise<void> => {
    if (inHand === null) return;
    const entry = { type: 'confirm' as const, operation, option, value: inHand, pieces };
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
