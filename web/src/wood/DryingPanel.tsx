import { loggedAirEmcPct, type Air } from '@ample-crane/core';
import { Button } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { sayDayOf, sayTime } from '../shared/time.ts';
import { Verdict, type VerdictTone } from '../devices/Verdict.tsx';
import { DryingChart } from './DryingChart.tsx';
import { canForesee, type Foreseen } from './foresee.ts';
import type { Drying, Room } from './queries.ts';
import { useForeseen } from './useForeseen.ts';
import { WhatIf } from './WhatIf.tsx';
import { ifItComesBack, outlookOf, pct, readyWords } from './words.ts';

export interface DryingView {
  verdict: ReactNode;
  chart: ReactNode;
  whatIf: ReactNode;
}

/** A drying forecast with its proof: verdict, chart and the room's sliders, which share one question to the worker. */
export function useDryingView(props: {
  drying: Drying;
  rooms: readonly Room[];
  zone: string;
  sentence: string;
  tone: VerdictTone;
}): DryingView {
  const { drying, rooms, zone, sentence, tone } = props;
  const [asked, setAsked] = useState<Air | null>(null);
  const [table, setTable] = useState(false);
  const air = asked ?? drying.air;
  const foreseen = useForeseen(drying, air);
  const emcPct = air === null ? null : loggedAirEmcPct(air);
  const said = { nowMs: drying.nowMs, zone, highPct: drying.window.highPct };
  const asIs = drying.air === null ? null : loggedAirEmcPct(drying.air);
  const room = rooms.find((one) => one.room === drying.room);
  const returning = ifItComesBack(drying, room);
  return {
    verdict: (
      <Verdict tone={tone} sentence={sentence}>
        <p style={{ fontWeight: 700 }}>
          {readyWords(outlookOf(drying), { ...said, emcPct: asIs })}
          {returning && ` That is ${returning}.`}
        </p>
        <p className="quiet">
          {drying.marginPct > 0.05 &&
            `The date is for what dries last, ${pct(drying.marginPct)} % above the mean. `}
          {foreseen && constantWords(foreseen)}
          {drying.oldRuleMs !== null &&
            ` The old rule, a year for each inch from green, would say ${sayTime(drying.oldRuleMs, zone, drying.nowMs, Infinity)}.`}
        </p>
      </Verdict>
    ),
    chart: (
      <section className="panel" aria-label="Drying">
        <div className="row" style={{ justifyContent: 'space-between' }}>
          <h2>Drying</h2>
          {foreseen && <Button onClick={() => setTable(!table)}>{table ? 'Chart' : 'Table'}</Button>}
        </div>
        {!foreseen && (
          <p className="quiet" role="status">
            {air && canForesee(drying)
              ? 'Working it out…'
              : 'Nothing to draw yet: read some boards, and log the room’s air.'}
          </p>
        )}
        {foreseen && !table && <DryingChart drying={drying} foreseen={foreseen} zone={zone} />}
        {foreseen && table && <ForecastTable foreseen={foreseen} zone={zone} />}
      </section>
    ),
    whatIf: air && (
      <WhatIf
        drying={drying}
        room={room}
        air={air}
        onAir={setAsked}
        answer={foreseen ? readyWords(foreseen.outlook, { ...said, emcPct }) : ''}
      />
    ),
  };
}

const constantWords = ({ tauDays }: Foreseen): string =>
  `Time constant ${tauDays.median.toFixed(0)} days at 21 °C (${tauDays.low90.toFixed(0)}–${tauDays.high90.toFixed(0)}).`;

function ForecastTable({ foreseen, zone }: { foreseen: Foreseen; zone: string }) {
  const rows = foreseen.fan.filter((_, i) => i % 4 === 0);
  return (
    <table>
      <thead>
        <tr>
          {['day', 'mean expected', '19 in 20 above', '19 in 20 below'].map((head) => (
            <th key={head} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ atMs, median, low90, high90 }) => (
          <tr key={atMs}>
            <td>{sayDayOf(atMs, zone)}</td>
            <td>{median.toFixed(2)} %</td>
            <td>{low90.toFixed(2)} %</td>
            <td>{high90.toFixed(2)} %</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
