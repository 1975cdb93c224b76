import { limitsWords } from '@ample-crane/core';
import { Link } from 'react-router';
import { useSetup } from '../api/queries.ts';
import { sayDayOf } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { MillNav } from './MillNav.tsx';
import { useDimensions, type Dimension } from './queries.ts';

const order = ({ view }: Dimension): number => (view.drift ? 0 : view.hit ? 1 : 2);

/** Every dimension that is measured: what its chart says, the worst first. */
export default function ChecksPage() {
  const { data: dimensions, error } = useDimensions();
  const { data: setup } = useSetup();
  if (!dimensions || !setup) return <p className="title">{error?.message ?? 'Opening…'}</p>;
  const { zone } = setup.calendar;
  const sorted = dimensions.toSorted((a, b) => order(a) - order(b) || b.looks - a.looks);
  const wanting = sorted.filter((one) => order(one) < 2);
  return (
    <>
      <div className="title">
        <h1>Checks & charts</h1>
        <MillNav />
      </div>
      <div style={{ padding: '14px 16px' }} className="stack">
        <Verdict
          tone={wanting.length > 0 ? 'wait' : 'good'}
          sentence={
            wanting.length > 0
              ? `Look at ${wanting.map((one) => `${one.model} ${one.kind} ${one.check.name.toLowerCase()}`).join(', ')}.`
              : 'Every dimension is in control.'
          }
        />
        <section className="panel">
          <table>
            <thead>
              <tr>
                {['dimension', 'measured at', 'limits', 'looks', 'last', 'now'].map((head) => (
                  <th key={head} scope="col">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {sorted.map((one) => (
                <tr key={one.view.href}>
                  <td>
                    <Link to={one.view.href}>
                      {one.model} {one.kind}: {one.check.name}
                    </Link>
                  </td>
                  <td>{one.operationName}</td>
                  <td>{limitsWords(one.check)}</td>
                  <td>{one.looks}</td>
                  <td>{one.lastMs === null ? 'never' : sayDayOf(one.lastMs, zone)}</td>
                  <td style={{ color: order(one) < 2 ? 'var(--oxblood)' : undefined }}>{stateWords(one)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      </div>
    </>
  );
}

function stateWords({ looks, view }: Dimension): string {
  if (looks === 0) return 'nothing measured yet';
  if (view.drift) return `drifting ${view.drift.slope > 0 ? 'up' : 'down'}`;
  return view.hit ? 'breaks a run rule' : 'in control';
}
