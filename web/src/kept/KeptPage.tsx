import { count } from '@ample-crane/core';
import {
  Box,
  Button,
  Table,
  TableBody,
  TableCell,
  TableContainer,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { newKey } from '../api/filing.ts';
import { useFloor, useSetup } from '../api/queries.ts';
import { sayTime, useFactoryNow } from '../shared/time.ts';
import { useFiling } from '../shared/useFiling.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { theOutbox } from '../outbox/browser.ts';
import { factoryOffsetMs } from '../outbox/clock.ts';
import { anew, givenUp, takesReason } from '../outbox/decide.ts';
import type { Kept, Touched } from '../outbox/store.ts';
import { Page, Panel, Quiet, Row } from '../parts/index.ts';

/** What this browser keeps for the server, and what the rules refused of it: its person decides. */
export default function KeptPage() {
  const { kept } = useFiling();
  const waiting = kept.filter(({ refused }) => refused === null);
  const refused = kept.filter((one) => one.refused !== null);
  return (
    <Page title="Kept in this browser">
      <Box style={{ padding: '6px 16px 16px' }}>
        <Verdict
          tone={refused.length > 0 ? 'bad' : waiting.length > 0 ? 'hold' : 'good'}
          sentence={sentence(waiting, refused)}
        >
          <Typography color="textSecondary">
            What you file is kept here before it is sent, and sent in the order you touched it; each counts as
            having happened when it was touched. It outlives a reload, a closed page and a day without a line,
            on this device.
          </Typography>
        </Verdict>
        {refused.length > 0 && <Refusals refused={refused} />}
        {waiting.length > 0 && <Waiting waiting={waiting} />}
        <GivenUp />
      </Box>
    </Page>
  );
}

function sentence(waiting: readonly Kept[], refused: readonly Kept[]): string {
  if (refused.length > 0)
    return `${count(refused.length, 'filing')} that ${refused.length === 1 ? 'was' : 'were'} kept ${refused.length === 1 ? 'is' : 'are'} refused: file anew, with a reason, or drop.`;
  if (waiting.length > 0)
    return `${count(waiting.length, 'filing')} ${waiting.length === 1 ? 'waits' : 'wait'} for the server.`;
  return 'Nothing is kept: the server has all that was filed here.';
}

function useSaid() {
  const { data: floor, dataUpdatedAt } = useFloor();
  const { data: setup } = useSetup();
  const nowMs = useFactoryNow(floor, dataUpdatedAt);
  return {
    moment: ({ touchedMs, offsetMs }: Kept): string =>
      sayTime(touchedMs + (offsetMs ?? factoryOffsetMs() ?? 0), floor?.zone ?? 'local', nowMs),
    time: (ms: number): string => sayTime(ms, floor?.zone ?? 'local', nowMs),
    name: (by: string): string => setup?.people.find(({ code }) => code === by)?.name ?? by,
  };
}

function Waiting({ waiting }: { waiting: readonly Kept[] }) {
  const said = useSaid();
  return (
    <Rows
      name="Waiting for the server"
      title="In this order"
      heads={['touched', 'what', 'by', 'tries']}
      rows={waiting.map((kept) => ({
        key: String(kept.order),
        cells: [said.moment(kept), kept.words, said.name(kept.by), String(kept.tries)],
      }))}
    />
  );
}

/** A short table in a panel of its own. */
function Rows(props: {
  name: string;
  title: string;
  heads: string[];
  rows: { key: string; cells: string[] }[];
}) {
  return (
    <Panel label={props.name}>
      <Typography variant="h2">{props.title}</Typography>
      <TableContainer>
        <Table size="small">
          <TableHead>
            <TableRow>
              {props.heads.map((head) => (
                <TableCell key={head}>{head}</TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {props.rows.map(({ key, cells }) => (
              <TableRow key={key}>
                {cells.map((cell, i) => (
                  <TableCell key={props.heads[i]}>{cell}</TableCell>
                ))}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </TableContainer>
    </Panel>
  );
}

function Refusals({ refused }: { refused: readonly Kept[] }) {
  return (
    <Panel label="Refused">
      <Typography variant="h2">Refused since: decide</Typography>
      {refused.map((kept) => (
        <Refusal key={kept.order} kept={kept} />
      ))}
    </Panel>
  );
}

function Refusal({ kept }: { kept: Kept }) {
  const said = useSaid();
  const [reason, setReason] = useState('');
  const [busy, setBusy] = useState(false);
  const instead = async (touched: Touched): Promise<void> => {
    setBusy(true);
    const outbox = await theOutbox();
    // First kept, then taken out: killed in between, it is there twice rather than not at all.
    void outbox.file(touched);
    await outbox.remove(kept.order);
  };
  return (
    <Box
      component="article"
      style={{ padding: '8px 0', borderBottom: '1px solid var(--fibre)' }}
      aria-label={kept.words}
    >
      <Typography>
        <strong>{kept.words}</strong>{' '}
        <Quiet>
          touched {said.moment(kept)} by {said.name(kept.by)}
        </Quiet>
      </Typography>
      <Typography style={{ color: 'var(--oxblood)' }}>{kept.refused}</Typography>
      <Row style={{ marginTop: 6 }}>
        {takesReason(kept) && (
          <TextField
            label="Reason, if it is to go on anyway"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            sx={{ minWidth: 280 }}
          />
        )}
        <Button
          disabled={busy}
          variant="contained"
          onClick={() => void instead(anew(kept, newKey(), reason))}
        >
          {reason.trim() === '' ? 'File anew' : 'File with this reason'}
        </Button>
        <Button disabled={busy} color="error" onClick={() => void instead(givenUp(kept, newKey()))}>
          Drop, and note it
        </Button>
      </Row>
    </Box>
  );
}

/** What was given up, on any device. */
function GivenUp() {
  const said = useSaid();
  const { data: all = [] } = useQuery({
    queryKey: ['given-up'],
    queryFn: () => answered(server.GET('/api/log/given-up')),
  });
  if (all.length === 0) return null;
  return (
    <Rows
      name="Given up"
      title="Given up, on any device"
      heads={['touched', 'what', 'by', 'why it was refused']}
      rows={all.map((one) => ({
        key: one.key,
        cells: [said.time(one.touchedMs), one.words, said.name(one.by), one.why],
      }))}
    />
  );
}
