import {
  coatsWanted,
  operationAfter,
  operationOf,
  operationsInUse,
  tallyAt,
  toAccept,
  type Operation,
  type Route,
} from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { useId, useState } from 'react';
import { fileEntries, type EntryDraft } from '../api/filing.ts';
import { usePartners, type BatchDetail } from '../api/queries.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { maybe, maybeWords } from '../shared/typed.ts';
import { AskFrom, AskNumber, asOptions, AskWords, Form, useDraft } from '../fields/index.ts';
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

const NOTHING_SAID = { count: '', reason: '', partner: '' };

function Place({ batch, operation }: { batch: BatchDetail; operation: Operation }) {
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`log ${batch.code} ${operation.key}`, NOTHING_SAID, { keep: ['partner'] });
  const [asked, setAsked] = useState<EntryDraft | null>(null);
  const id = useId();
  if (!batch.state) return null;
  const tally = tallyAt(batch.state, batch.route, operation.key);
  const arrived = toAccept(batch.state, batch.route).filter((p) => p.operation === operation.key).length;
  const overridable = refusal && canOverride(refusal.body) && asked && takesReason(asked) ? asked : null;

  /** Files what `entry` makes of what is typed; null: something is missing, which its field says. */
  const file = (entry: (said: Said) => EntryDraft | null): void =>
    void draft.submit(async ({ count, reason, partner }) => {
      const many = maybe('count', count);
      const said = { many, here: { operation: operation.key, ...many }, reason: reason.trim(), partner };
      const one = entry(said);
      if (!one) return false;
      setAsked(one);
      return (await perform((by, key) => fileEntries(batch.code, by, key, [one]), filedWords)) !== null;
    });
  const missing = (field: 'reason' | 'partner', message: string): null => {
    draft.form.setError(field, { message }, { shouldFocus: true });
    return null;
  };
  const fileFault = (type: 'scrap' | 'rework' | 'hold'): void =>
    file(({ here, reason }) =>
      reason === '' ? missing('reason', 'say why first') : { type, ...here, reason },
    );
  const plain =
    (type: 'start' | 'done' | 'coat' | 'end') =>
    ({ here }: Said): EntryDraft => ({ type, ...here });

  return (
    <Form
      draft={draft}
      refusal={refusal}
      style={{ padding: '10px 0 4px', borderBottom: '1px solid var(--fibre)' }}
      onFile={() => false}
    >
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
        <AskNumber
          name="count"
          label="Pieces"
          least={1}
          most={batch.state.quantity}
          whole
          optional
          placeholder="all"
          width={90}
        />
        {arrived > 0 && (
          <Button
            variant="contained"
            disabled={busy}
            onClick={() => file(({ here }) => ({ type: 'accept', ...here }))}
          >
            Accept
          </Button>
        )}
        {tally.waiting > 0 &&
          operation.mode !== 'join' &&
          operation.mode !== 'ship' &&
          operation.mode !== 'gate' && (
            <Button variant="contained" disabled={busy} onClick={() => file(plain('start'))}>
              Start
            </Button>
          )}
        {doneLabel(operation, batch.route, tally) && (
          <Button variant="contained" disabled={busy} onClick={() => file(plain('done'))}>
            {doneLabel(operation, batch.route, tally)}
          </Button>
        )}
        {coatsWanted(batch.state, operation) > 0 && tally.inHand > 0 && (
          <Button disabled={busy} onClick={() => file(plain('coat'))}>
            Log a coat
          </Button>
        )}
        {tally.onHold > 0 && (
          <Button variant="contained" disabled={busy} onClick={() => file(plain('end'))}>
            End hold
          </Button>
        )}
        {operation.mode === 'ship' && (
          <Button
            variant="contained"
            disabled={busy}
            onClick={() =>
              file(({ here, reason }) => ({ type: 'ship', ...here, ...maybeWords('to', reason) }))
            }
          >
            Ship
          </Button>
        )}
        {operation.mode === 'join' && (
          <JoinChoice
            batch={batch}
            operation={operation}
            busy={busy}
            onJoin={() =>
              file(({ partner, many }) =>
                partner === '' ? missing('partner', 'with which') : { type: 'join', partner, ...many },
              )
            }
          />
        )}
      </Row>
      <Row>
        <AskWords
          name="reason"
          label={operation.mode === 'ship' ? 'To whom, or the reason' : 'Reason'}
          width={220}
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
            disabled={busy}
            onClick={() =>
              file(({ reason }) =>
                reason === ''
                  ? missing('reason', 'to go on anyway, say why')
                  : { ...overridable, because: reason },
              )
            }
          >
            Go on anyway, for the reason given
          </Button>
        )}
      </Row>
      {operation.caution && (
        <Typography color="textSecondary" style={{ fontSize: 12.5, margin: '6px 0' }}>
          {operation.caution}
        </Typography>
      )}
    </Form>
  );
}

/** What is typed at a place, for the entries made of it. */
interface Said {
  /** How many of them; nothing where it is all. */
  many: { count?: number };
  here: { operation: string; count?: number };
  reason: string;
  partner: string;
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
  'kit-missing',
  'not-accepted',
];
const canOverride = (body: unknown): boolean =>
  typeof body === 'object' && body !== null && 'code' in body && OVERRIDABLE.includes(String(body.code));

/** The racks of the same model that stand at their side of this join. */
function JoinChoice(props: {
  batch: BatchDetail;
  operation: Extract<Operation, { mode: 'join' }>;
  onJoin: () => void;
  busy: boolean;
}) {
  const { batch, operation, onJoin, busy } = props;
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
      <AskFrom
        name="partner"
        label="With"
        options={asOptions(partners.map((one) => one.batch))}
        width={150}
      />
      <Button variant="contained" disabled={busy} onClick={onJoin}>
        Join
      </Button>
    </>
  );
}
