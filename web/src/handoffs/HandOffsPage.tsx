import { count } from '@ample-crane/core';
import { Button, Stack, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { answered, server, type Schemas } from '../api/client.ts';
import { fileEntries } from '../api/filing.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { AskChoice, AskWords, Choice, Form, useDraft } from '../fields/index.ts';
import { Columns, EmptyState, Opening, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { FlowNav } from '../shared/FlowNav.tsx';
import { sayClock } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { countedSentence } from './words.ts';

type HandOffs = Schemas['HandOffsDto'];
type HandOff = HandOffs['arriving'][number];

const DAYS = ['7', '28', '84', '365'];
const USUAL_DAYS = '28';

/** What came to the next department is accepted or sent back, piece by piece; and what was found where, caused where. */
export default function HandOffsPage() {
  const { asked, ask } = useInAddress();
  const days = Number(DAYS.includes(asked('days')) ? asked('days') : USUAL_DAYS);
  const { data, error } = useQuery({
    queryKey: ['hand-offs', days],
    queryFn: () => answered(server.GET('/api/hand-offs', { params: { query: { days } } })),
    placeholderData: (before) => before,
  });
  if (!data) return <Opening error={error} />;
  return (
    <Page title="Hand-offs" tabs={<FlowNav />}>
      <Columns>
        <Panel label="To be accepted" stack>
          <Typography variant="h2">To be accepted</Typography>
          <Quiet block>
            The next department is a customer. What came is looked at before work on it begins: it is good, or
            it goes back.
          </Quiet>
          {data.arriving.length === 0 && <EmptyState>Nothing waits to be accepted.</EmptyState>}
          {data.arriving.map((one) => (
            <Arriving key={`${one.batch}${one.operation}`} one={one} zone={data.zone} />
          ))}
        </Panel>
        <Counted data={data} onDays={(value) => ask('days', value)} />
      </Columns>
    </Page>
  );
}

function Arriving({ one, zone }: { one: HandOff; zone: string }) {
  const { batch, model, operation, operationName, positions, sinceMs } = one;
  const { perform, busy, refused } = usePerform();
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [back, setBack] = useState(false);
  const picked = positions.filter((position) => chosen.includes(position));
  const accept = (pieces: number[]): void =>
    void perform(
      (by, key) => fileEntries(batch, by, key, [{ type: 'accept', operation, pieces }]),
      filedWords,
    );
  return (
    <section aria-label={`${batch} at ${operationName}`}>
      <Typography>
        <Link to={`/batch/${batch}`} className="condensed codelink">
          {batch}
        </Link>{' '}
        <strong>{model}</strong>{' '}
        <Quiet>
          at {operationName} since {sayClock(sinceMs, zone)}
        </Quiet>
      </Typography>
      <Row role="group" aria-label={`Pieces of ${batch}`} style={{ gap: 4, margin: '6px 0' }}>
        {positions.map((position) => {
          const on = picked.includes(position);
          return (
            <Button
              key={position}
              size="small"
              variant={on ? 'contained' : 'outlined'}
              aria-pressed={on}
              sx={{ minWidth: 44, minHeight: 40 }}
              onClick={() =>
                setChosen(on ? picked.filter((other) => other !== position) : [...picked, position])
              }
            >
              {String(position).padStart(2, '0')}
            </Button>
          );
        })}
      </Row>
      <Row>
        <Button
          variant="contained"
          disabled={busy}
          onClick={() => accept(picked.length > 0 ? [...picked] : [...positions])}
        >
          {picked.length > 0 ? `Accept ${count(picked.length, 'piece')}` : `Accept all ${positions.length}`}
        </Button>
        <Button
          variant="outlined"
          disabled={picked.length === 0}
          aria-expanded={back}
          onClick={() => setBack(!back)}
        >
          Send {picked.length > 0 ? count(picked.length, 'piece') : 'pieces'} back
        </Button>
      </Row>
      <Refused words={refused} />
      {back && picked.length > 0 && (
        <SendBack
          one={one}
          pieces={picked}
          onDone={() => {
            setBack(false);
            setChosen([]);
          }}
        />
      )}
    </section>
  );
}

function SendBack({ one, pieces, onDone }: { one: HandOff; pieces: number[]; onDone: () => void }) {
  const { batch, operation, behind, origins } = one;
  const { perform, busy, refusal } = usePerform();
  const begin = { reason: '', to: behind[0]?.key ?? '', origin: '' };
  const draft = useDraft(`hand back ${batch} ${operation}`, begin);
  const file = async ({ reason, to, origin }: typeof begin): Promise<boolean> => {
    const done = await perform(
      (by, key) => fileEntries(batch, by, key, [{ type: 'rework', operation, pieces, reason, to, origin }]),
      filedWords,
    );
    if (done) onDone();
    return done !== null;
  };
  return (
    <Form draft={draft} label={`Send pieces of ${batch} back`} lay="stack" refusal={refusal} onFile={file}>
      <AskWords name="reason" label="What is wrong" needed="what is wrong with it" />
      <Row>
        <AskChoice
          name="to"
          label="Back to"
          options={behind.map(({ key, name }) => ({ value: key, words: name }))}
          needed="to where"
          width={190}
        />
        <AskChoice
          name="origin"
          label="Caused at"
          options={origins.map(({ place, name }) => ({ value: place, words: name }))}
          needed="where it came about, which need not be where it goes"
          width={230}
        />
      </Row>
      <Button type="submit" variant="contained" disabled={busy}>
        Send {count(pieces.length, 'piece')} of {batch} back
      </Button>
    </Form>
  );
}

const MOST_REASONS = 3;

function Counted({ data, onDays }: { data: HandOffs; onDays: (days: string) => void }) {
  const { counted, days } = data;
  return (
    <Stack>
      <Panel label="Found and caused" stack>
        <Row style={{ justifyContent: 'space-between', alignItems: 'flex-end' }}>
          <Typography variant="h2">Found and caused</Typography>
          <Choice
            label="Of the last"
            value={String(days)}
            options={DAYS.map((value) => ({ value, words: count(Number(value), 'day') }))}
            onChange={onDays}
            width={120}
          />
        </Row>
        <Verdict {...countedSentence(counted)} />
        {counted.length > 0 && (
          <Table size="small" aria-label="Faults by where they were found and caused">
            <TableHead>
              <TableRow>
                <TableCell>caused at</TableCell>
                <TableCell>found at</TableCell>
                <TableCell align="right">back</TableCell>
                <TableCell align="right">lost</TableCell>
                <TableCell>what</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {counted.map(({ found, foundName, caused, causedName, sentBack, scrapped, reasons }) => (
                <TableRow key={`${found}${caused ?? ''}`}>
                  <TableCell>{causedName ?? <Quiet>nobody said</Quiet>}</TableCell>
                  <TableCell>{foundName}</TableCell>
                  <TableCell align="right">{sentBack}</TableCell>
                  <TableCell align="right">{scrapped}</TableCell>
                  <TableCell>
                    {reasons
                      .slice(0, MOST_REASONS)
                      .map(({ reason, pieces }) => (pieces > 1 ? `${reason} ${pieces}` : reason))
                      .join(', ')}
                    {reasons.length > MOST_REASONS && ` and ${reasons.length - MOST_REASONS} more`}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        )}
      </Panel>
    </Stack>
  );
}
