import type { Meeting, Swap } from '@ample-crane/core';
import { Button } from '@mui/material';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { sayTime } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { Refused } from '../devices/Refused.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { FittingNav } from './FittingNav.tsx';
import { MeetingAxis } from './MeetingAxis.tsx';
import { useMeetings, type Meetings } from './queries.ts';

/** Bodies and necks that will join: who waits for whom, how long, and which change of partners helps. */
export default function MeetingPage() {
  const { data, error } = useMeetings();
  if (!data) return <p className="title">{error?.message ?? 'Opening…'}</p>;
  const { meetings, swaps, alone } = data.forecast;
  return (
    <>
      <div className="title">
        <h1>Meeting</h1>
        <FittingNav />
      </div>
      <div className="columns">
        <div className="stack">
          <Verdict tone={swaps.length > 0 ? 'wait' : 'hold'} sentence={verdictWords(meetings, swaps)} />
          <section className="panel" aria-label="Time axis">
            <p className="quiet">
              Bodies above the line, necks below it; hatched is waiting, the pale whisker the range of the
              later side.
            </p>
            <MeetingAxis data={data} />
          </section>
        </div>
        <div className="stack">
          <section className="panel" aria-label="Change partners">
            <h2>Change partners</h2>
            {swaps.length === 0 && (
              <p className="quiet">No change of partners within a model saves a day of waiting.</p>
            )}
            {swaps.map((swap) => (
              <SwapCard key={swap.meets.map((one) => one.host).join()} swap={swap} data={data} />
            ))}
          </section>
          <section className="panel" aria-label="Alone">
            <h2>Without a partner</h2>
            {alone.length === 0 && <p className="quiet">Every batch has one.</p>}
            {alone.map((batch) => {
              const side = data.sides.find((one) => one.batch === batch);
              return (
                <p key={batch}>
                  <Link to={`/batch/${batch}`}>{batch}</Link> {side?.model}, {side?.pieces} left
                </p>
              );
            })}
          </section>
          <TellForm data={data} />
        </div>
      </div>
    </>
  );
}

function verdictWords(meetings: readonly Meeting[], swaps: readonly Swap[]): string {
  const misses = meetings.filter((meeting) => meeting.misses);
  if (meetings.length === 0) return 'No bodies and necks are on their way to each other.';
  const help =
    swaps.length > 0
      ? `${swaps.length} change${swaps.length === 1 ? '' : 's'} of partners would save ${Math.round(Math.max(...swaps.map((swap) => swap.savesPieceHours)))} piece-hours${swaps.length > 1 ? ' at best' : ''}`
      : 'no change of partners helps';
  if (meetings.length === 1)
    return misses.length === 0
      ? 'The one pair meets within a day.'
      : `The one pair misses each other by more than a day; ${help}.`;
  return misses.length === 0
    ? `All ${meetings.length} pairs meet within a day.`
    : `${misses.length} of ${meetings.length} pairs miss each other by more than a day; ${help}.`;
}

function SwapCard({ swap, data }: { swap: Swap; data: Meetings }) {
  const { perform, busy, refused } = usePerform();
  const { zone, nowMs } = data;
  const take = (): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/meetings', {
            body: { key, by, meets: swap.meets.map(({ host, guest }) => ({ host, guest })) },
          }),
        ),
      filedWords,
    );
  return (
    <article className="cycle">
      <p>
        {swap.meets.map((one) => (
          <span key={one.host} style={{ display: 'block' }}>
            <strong>
              {one.host} with {one.guest}
            </strong>
            , {sayTime(one.meetMs, zone, nowMs)}
          </span>
        ))}
      </p>
      <p className="quiet">
        Saves {Math.round(swap.savesPieceHours)} piece-hours of waiting
        {swap.laterPieceHours < -1 &&
          `, and bodies meet ${Math.round(-swap.laterPieceHours)} piece-hours sooner in sum`}
        .
      </p>
      <Button variant="contained" disabled={busy} onClick={() => void take()}>
        Change partners
      </Button>
      <Refused words={refused} />
    </article>
  );
}

/** Saying by hand who meets whom. */
function TellForm({ data }: { data: Meetings }) {
  const { perform, busy, refused } = usePerform();
  const hosts = data.sides.filter((side) => side.role === 'host');
  const tell = (form: FormData): Promise<unknown> => {
    const [host, guest] = ['host', 'guest'].map((name) => {
      const chosen = form.get(name);
      return typeof chosen === 'string' ? chosen : '';
    }) as [string, string];
    return perform(
      (by, key) => answered(server.POST('/api/meetings', { body: { key, by, meets: [{ host, guest }] } })),
      filedWords,
    );
  };
  if (hosts.length === 0) return null;
  return (
    <form
      className="panel"
      aria-label="Say who meets whom"
      onSubmit={(event) => {
        event.preventDefault();
        void tell(new FormData(event.currentTarget));
      }}
    >
      <h2>Say who meets whom</h2>
      <div className="row" style={{ marginTop: 6 }}>
        <label>
          Body{' '}
          <select name="host">
            {hosts.map((side) => (
              <option key={side.batch}>{side.batch}</option>
            ))}
          </select>
        </label>
        <label>
          Neck{' '}
          <select name="guest">
            {data.sides
              .filter((side) => side.role === 'guest')
              .map((side) => (
                <option key={side.batch}>{side.batch}</option>
              ))}
          </select>
        </label>
        <Button type="submit" disabled={busy}>
          Let them meet
        </Button>
      </div>
      <Refused words={refused} />
    </form>
  );
}
