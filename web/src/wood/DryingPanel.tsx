import { loggedAirEmcPct, type Air } from '@ample-crane/core';
import { Button, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { sayDayOf, sayTime } from '../shared/time.ts';
import { Verdict, type VerdictTone } from '../devices/Verdict.tsx';
import { ColumnHeads, Panel, Reckoning, Row, type Reckoned } from '../parts/index.ts';
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
        <Typography style={{ fontWeight: 700 }}>
          {readyWords(outlookOf(drying), { ...said, emcPct: asIs })}
          {returning && ` That is ${returning}.`}
        </Typography>
        <Typography color="textSecondary">
          {drying.marginPct > 0.05 &&
            `The date is for what dries last, ${pct(drying.marginPct)} % above the mean. `}
          {foreseen && constantWords(foreseen)}
          {drying.oldRuleMs !== null &&
            ` The old rule, a year for each inch from green, would say ${sayTime(drying.oldRuleMs, zone, drying.nowMs, Infinity)}.`}
        </Typography>
        <Reckoning {...dryingReckoning(drying, foreseen)} />
      </Verdict>
    ),
    chart: (
      <Panel label="Drying">
        <Row style={{ justifyContent: 'space-between' }}>
          <Typography variant="h2">Drying</Typography>
          {foreseen && <Button onClick={() => setTable(!table)}>{table ? 'Chart' : 'Table'}</Button>}
        </Row>
        {!foreseen && (
          <Typography color="textSecondary" role="status">
            {air && canForesee(drying)
              ? 'Working it out…'
              : 'Nothing to draw yet: read some boards, and log the room’s air.'}
          </Typography>
        )}
        {foreseen && !table && <DryingChart drying={drying} foreseen={foreseen} zone={zone} />}
        {foreseen && table && <ForecastTable foreseen={foreseen} zone={zone} />}
      </Panel>
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

/** How the date of a forecast comes about. */
function dryingReckoning(drying: Drying, foreseen: Foreseen | null): Reckoned {
  const { air, window, readings, setAside, thicknessMm, basicSpecificGravity, marginPct } = drying;
  return {
    put: [
      ['readings that count', String(readings.length)],
      ...(setAside.length > 0 ? [['set aside until read again', String(setAside.length)] as const] : []),
      ['gate', `${pct(window.lowPct)}–${pct(window.highPct)} %`],
      ['thickness', `${thicknessMm} mm`],
      ['basic specific gravity', basicSpecificGravity.toFixed(2)],
      ...(air
        ? [
            [
              'air assumed',
              `${pct(air.temperatureC)} °C, ${air.relativeHumidityPct.toFixed(0)} % RH`,
            ] as const,
            ['its EMC', `${pct(loggedAirEmcPct(air))} %`] as const,
          ]
        : []),
      ...(marginPct > 0.05 ? [['the wettest lie above the mean by', `${pct(marginPct)} %`] as const] : []),
      ...(foreseen
        ? [['time constant at 21 °C', `${foreseen.tauDays.median.toFixed(0)} days`] as const]
        : []),
    ],
    formula:
      'What is over the EMC is lost in proportion, twice as fast for every 10 °C, in the logged air of the rooms it lay in. The time constant begins at 20 days for 25 mm of specific gravity 0.55, goes with thickness to the power of 1.7 and with gravity, and is fitted to the readings. 400 futures are played; the date is their median, the range holds 90 of 100.',
    source:
      'EMC by Hailwood and Horrobin, Wood Handbook, chapter 4. It does not know wood above fibre saturation, about 30 %.',
  };
}

const constantWords = ({ tauDays }: Foreseen): string =>
  `Time constant ${tauDays.median.toFixed(0)} days at 21 °C (${tauDays.low90.toFixed(0)}–${tauDays.high90.toFixed(0)}).`;

function ForecastTable({ foreseen, zone }: { foreseen: Foreseen; zone: string }) {
  const rows = foreseen.fan.filter((_, i) => i % 4 === 0);
  return (
    <Table>
      <ColumnHeads names={['day', 'mean expected', '19 in 20 above', '19 in 20 below']} />
      <TableBody>
        {rows.map(({ atMs, median, low90, high90 }) => (
          <TableRow key={atMs}>
            <TableCell>{sayDayOf(atMs, zone)}</TableCell>
            <TableCell>{median.toFixed(2)} %</TableCell>
            <TableCell>{low90.toFixed(2)} %</TableCell>
            <TableCell>{high90.toFixed(2)} %</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
