import { count } from '@ample-crane/core';
import { Stack, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { AssemblyNav } from '../assembly/AssemblyNav.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { Choice } from '../fields/index.ts';
import { Columns, EmptyState, Fold, Opening, Page, Panel, PlainList, Quiet, Row } from '../parts/index.ts';
import { sayClock, sayDate } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { Bins } from './Bins.tsx';
import { useKits, type Kits, type RackAhead } from './queries.ts';
import { kitsSentence, shortageWords } from './words.ts';

const DAYS = ['3', '5', '10', '20', '60'];
const USUAL_DAYS = '10';

/** Racks in the order in which they come to assembly, each with its bins; and which parts will be missing. */
export default function KitsPage() {
  const { asked, ask } = useInAddress();
  const days = Number(DAYS.includes(asked('days')) ? asked('days') : USUAL_DAYS);
  const { data: kits, error } = useKits(days);
  if (!kits) return <Opening error={error} />;
  return (
    <Page title="Kits" tabs={<AssemblyNav />}>
      <Columns>
        <Panel label="Kits ahead" stack>
          <Row style={{ justifyContent: 'space-between', alignItems: 'flex-end' }}>
            <Typography variant="h2">In the order in which they come to assembly</Typography>
            <Choice
              label="Wanted within"
              value={String(days)}
              options={DAYS.map((value) => ({ value, words: count(Number(value), 'day') }))}
              onChange={(value) => ask('days', value)}
              width={130}
            />
          </Row>
          <TagField />
          <Verdict {...kitsSentence(kits, days)}>
            <Typography color="textSecondary">
              By routes and holds alone: no rack can come sooner, and queues may keep it.
            </Typography>
          </Verdict>
          {kits.without.length > 0 && (
            <Typography className="attention">
              Nobody has said which parts {kits.without.join(' and ')}{' '}
              {kits.without.length > 1 ? 'want' : 'wants'}: <Link to="/kits/bills">write it down</Link>.
            </Typography>
          )}
          {kits.ahead.length === 0 && <EmptyState>No rack comes to assembly within {days} days.</EmptyState>}
          {kits.ahead.map((rack) => (
            <Ahead key={rack.batch} rack={rack} zone={kits.zone} />
          ))}
        </Panel>
        <Shortages kits={kits} />
      </Columns>
    </Page>
  );
}

/** A piece as its tag has it: its rack, its place. */
const TAG = /^([A-Z]-\d{1,9})\/(\d{1,3})$/;

/** A scanned tag opens its bin. */
function TagField() {
  const navigate = useNavigate();
  const [said, setSaid] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const go = (): void => {
    const [, batch, place] = TAG.exec(said.trim().toUpperCase()) ?? [];
    if (batch === undefined || place === undefined) setProblem('no tag: I-188/03 is one');
    else void navigate(`/kits/${batch}/${Number(place)}`);
  };
  return (
    <TextField
      label="Scan a tag, or type its code"
      value={said}
      onChange={(event) => {
        setSaid(event.target.value);
        setProblem(null);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') go();
      }}
      error={problem !== null}
      helperText={problem ?? 'Enter opens its bin'}
      sx={{ width: 260 }}
    />
  );
}

function Ahead({ rack, zone }: { rack: RackAhead; zone: string }) {
  const { batch, model, wantMs, dueMs, where, bins, short } = rack;
  return (
    <section aria-label={`Kits of ${batch}`}>
      <Typography>
        <Link to={`/batch/${batch}`} className="condensed codelink">
          {batch}
        </Link>{' '}
        <strong>{model}</strong>{' '}
        <Quiet>
          now at {where} · at the bench {sayClock(wantMs, zone)} · due {sayDate(dueMs, zone)}
        </Quiet>
      </Typography>
      <Bins batch={batch} bins={bins} />
      {short.map(({ part, name, slot, short: missing, comesMs }) => (
        <Typography key={`${part}${slot}`} className="attention">
          {missing} of <Link to={`/kits/parts/${part}`}>{part}</Link> {name} missing
          {comesMs === null ? ', and none on order for it' : `; they come ${sayDate(comesMs, zone)}`}
        </Typography>
      ))}
    </section>
  );
}

function Shortages({ kits: { shortages, standIns, nowMs, zone } }: { kits: Kits }) {
  const say = (ms: number): string => sayDate(ms, zone);
  return (
    <Stack>
      <Panel label="Parts that will be missing" stack>
        <Typography variant="h2">Parts that will be missing</Typography>
        <Quiet block>
          Every open rack and every order that is not begun, in the order in which they want their kits.
        </Quiet>
        {shortages.length === 0 && (
          <EmptyState>None: all that is wanted is here or comes in time.</EmptyState>
        )}
        {shortages.map((shortage) => (
          <section key={shortage.part} aria-label={`Shortage of ${shortage.part}`}>
            <Typography>
              <Link to={`/kits/parts/${shortage.part}`} className="condensed codelink">
                {shortage.part}
              </Link>{' '}
              <strong>{shortage.name}</strong>{' '}
              <Quiet>
                {shortage.onHand} there, {shortage.onOrder} on order
              </Quiet>
            </Typography>
            <Typography className={shortage.toOrder > 0 ? 'attention' : undefined}>
              {shortageWords(shortage, nowMs, say)}{' '}
              <Quiet>
                ({shortage.supplier}, {shortage.leadDays} days)
              </Quiet>
            </Typography>
            <Stops racks={shortage.racks} say={say} />
          </section>
        ))}
      </Panel>
      {standIns.length > 0 && (
        <Fold name={`What may stand in: ${count(standIns.length, 'time')}`}>
          <PlainList>
            {standIns.map(({ rack, slot, name, instead, insteadName, quantity }) => (
              <li key={`${rack}${slot}${instead}`}>
                {rack}: {quantity} × {insteadName} ({instead}) for {name}
              </li>
            ))}
          </PlainList>
        </Fold>
      )}
    </Stack>
  );
}

const MOST_STOPS = 4;

function Stops({ racks, say }: { racks: Kits['shortages'][number]['racks']; say: (ms: number) => string }) {
  const more = racks.length - MOST_STOPS;
  return (
    <PlainList>
      {racks.slice(0, MOST_STOPS).map(({ rack, slot, short, wantMs, comesMs }) => (
        <li key={`${rack}${slot}`}>
          <Link to={rack.startsWith('O-') ? `/orders/${rack.split('/')[0] ?? ''}` : `/batch/${rack}`}>
            {rack}
          </Link>{' '}
          lacks {short} from {say(wantMs)}
          {comesMs === null ? '' : ` until ${say(comesMs)}`}
        </li>
      ))}
      {more > 0 && <li>and {more} more</li>}
    </PlainList>
  );
}
