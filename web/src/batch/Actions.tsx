import {
  coatsWanted,
  operationAfter,
  operationOf,
  operationsInUse,
  tallyAt,
  type Operation,
  type Route,
} from '@ample-crane/core';
import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useId, useState } from 'react';
import { fileEntries, type EntryDraft } from '../api/filing.ts';
import { usePartners, type BatchDetail } from '../api/queries.ts';
import { useFiling } from '../shared/useFiling.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Panel, Quiet, Row } from '../parts/index.ts';

/** Everything that can be logged for a batch now, place by place, for those who would rather press than type. */
export function Actions({ batch }: { batch: BatchDetail }) {
  const { state, route } = batch;
  if (!state) return null;
  const keys = operationsInUse(state, route);
  if (keys.length === 0) return null;
  return (
    <Panel label="Log it">
      <Typography variant="h2">Log it</Typography>
      {keys.map((key) => (
        <Place key={key} batch={batch} operation={operationOf(route, key)} />
      ))}
    </Panel>
  );
}

/** An entry that may be filed against a rule, with a reason. */
type AgainstRule = Extract<EntryDraft, { type: 'start' | 'done' | 'end' | 'coat' | 'join' | 'ship' }>;
const takesReason = (entry: EntryDraft): entry is AgainstRule =>
  ['start', 'done', 'end', 'coat', 'join', 'ship'].includes(entry.type);

function Place({ batch, operation }: { batch: BatchDetail; operation: Operation }) {
  const { setNews } = useFiling();
  const { perform, busy, refused, refusal } = usePerform();
  const [count, setCount] = useState('');
  const [reason, setReason] = useState('');
  const [partner, setPartner] = useState('');
  const [asked, setAsked] = useState<EntryDraft | null>(null);
  const id = useId();
  if (!batch.state) return null;
  const tally = tallyAt(batch.state, batch.route, operation.key);
  const many = count === '' ? {} : { count: Number(count) };
  const here = { operation: operation.key, ...many };
  const overridable = refusal && canOverride(refusal.body) && asked && takesReason(asked) ? asked : null;

  const file = async (entry: EntryDraft): Promise<void> => {
    setAsked(entry);
    const filed = await perform((by, key) => fileEntries(batch.code, by, key, [entry]), filedWords);
    if (!filed) return;
    setCount(unlessTypedSince(count));
    setReason(unlessTypedSince(reason));
  };
  const fileFault = (type: 'scrap' | 'rework' | 'hold'): void => {
    if (reason.trim() === '') setNews({ tone: 'refused', text: 'Say the reason first.' });
    else void file({ type, ...here, reason: reason.trim() });
  };

  return (
    <Box style={{ padding: '10px 0 4px', borderBottom: '1px solid var(--fibre)' }}>
      <Row style={{ justifyContent: 'space-between' }}>
        <Typography variant="h3" id={id}>
          {operation.name}
        </Typography>
        <Quiet>
          {[
            tally.waiting && `${tally.waiting} waiting`,
            tally.inHand && `${tally.inHand} in hand`,
            tally.onHold && `${tally.onHold} on hold`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Row>
      <Row role="group" aria-labelledby={id} style={{ margin: '6px 0' }}>
        <TextField
          label="Pieces"
          value={count}
          onChange={(event) => setCount(event.target.value.replace(/\D/g, '').slice(0, 3))}
          placeholder="all"
          slotProps={{
            htmlInput: { inputMode: 'numeric', style: { width: 44 } },
            inputLabel: { shrink: true },
          }}
        />
        {tally.waiting > 0 &&
          operation.mode !== 'join' &&
          operation.mode !== 'ship' &&
          operation.mode !== 'gate' && (
            <Button variant="contained" disabled={busy} onClick={() => void file({ type: 'start', ...here })}>
              Start
            </Button>
          )}
        {doneLabel(operation, batch.route, tally) && (
          <Button variant="contained" disabled={busy} onClick={() => void file({ type: 'done', ...here })}>
            {doneLabel(operation, batch.route, tally)}
          </Button>
        )}
        {coatsWanted(batch.state, operation) > 0 && tally.inHand > 0 && (
          <Button disabled={busy} onClick={() => void file({ type: 'coat', ...here })}>
            Log a coat
          </Button>
        )}
        {tally.onHold > 0 && (
          <Button variant="contained" disabled={busy} onClick={() => void file({ type: 'end', ...here })}>
            End hold
          </Button>
        )}
        {operation.mode === 'ship' && (
          <Button
            variant="contained"
            disabled={busy}
            onClick={() =>
              void file({ type: 'ship', ...here, ...(reason.trim() ? { to: reason.trim() } : {}) })
            }
          >
            Ship
          </Button>
        )}
        {operation.mode === 'join' && (
          <JoinChoice
            batch={batch}
            operation={operation}
            partner={partner}
            onChoose={setPartner}
            busy={busy}
            onJoin={() => void file({ type: 'join', partner, ...many })}
          />
        )}
      </Row>
      <Row>
        <TextField
          label={operation.mode === 'ship' ? 'To whom, or the reason' : 'Reason'}
          value={reason}
          onChange={(event) => setReason(event.target.value.slice(0, 200))}
          sx={{ width: 220 }}
        />
        <Button disabled={busy} onClick={() => fileFault('scrap')}>
          Scrap
        </Button>
        {operation.reworkTo !== null && (
          <Button disabled={busy} onClick={() => fileFault('rework')}>
            Send back to {operationOf(batch.route, operation.reworkTo).name}
          </Button>
        )}
        {tally.waiting + tally.inHand > 0 && (
          <Button disabled={busy} onClick={() => fileFault('hold')}>
            Put on hold
          </Button>
        )}
        {overridable && (
          <Button
            color="error"
            disabled={busy || reason.trim() === ''}
            onClick={() => void file({ ...overridable, because: reason.trim() })}
          >
            {reason.trim() === '' ? 'To go on anyway, say why' : 'Go on anyway, for this reason'}
          </Button>
        )}
      </Row>
      <Refused words={refused} />
      {operation.caution && (
        <Typography color="textSecondary" style={{ fontSize: 12.5, margin: '6px 0' }}>
          {operation.caution}
        </Typography>
      )}
    </Box>
  );
}

/** 'Done' at work, 'Pass to …' at a gate, nothing where another word is needed. */
function doneLabel(
  operation: Operation,
  route: Route,
  tally: { waiting: number; inHand: number },
): string | null {
  if (operation.mode === 'gate') return `Pass to ${operationAfter(route, operation.key)?.name ?? 'the end'}`;
  return (operation.mode === 'attended' || operation.mode === 'load') && tally.inHand > 0 ? 'Done' : null;
}

const OVERRIDABLE = [
  'hold-not-over',
  'gate-not-passed',
  'coats-missing',
  'first-piece',
  'checks-missing',
  'outside-limits',
];
const canOverride = (body: unknown): boolean =>
  typeof body === 'object' && body !== null && 'code' in body && OVERRIDABLE.includes(String(body.code));

interface JoinChoiceProps {
  batch: BatchDetail;
  operation: Extract<Operation, { mode: 'join' }>;
  partner: string;
  onChoose: (code: string) => void;
  onJoin: () => void;
  busy: boolean;
}

/** The racks of the same model that stand at their side of this join. */
function JoinChoice({ batch, operation, partner, onChoose, onJoin, busy }: JoinChoiceProps) {
  const { data: standing } = usePartners(batch.code);
  if (!standing) return null;
  const partners = standing.filter(({ kind }) => kind === operation.partnerKind);
  if (partners.length === 0) {
    return (
      <Quiet>
        No {operation.partnerKind} rack of {batch.state?.model} is here to join yet.
      </Quiet>
    );
  }
  return (
    <>
      <TextField
        select
        label="With"
        value={partner}
        onChange={(event) => onChoose(event.target.value)}
        sx={{ width: 130 }}
      >
        {partners.map(({ batch: code }) => (
          <MenuItem key={code} value={code}>
            {code}
          </MenuItem>
        ))}
      </TextField>
      <Button variant="contained" disabled={busy || partner === ''} onClick={onJoin}>
        Join
      </Button>
    </>
  );
}
