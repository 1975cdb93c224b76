import { forecastEnd, holdContext, operationOf, rangeOf, type ClimateSample } from '@ample-crane/core';
import { Box, Slider, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchDetail, Hold } from '../api/queries.ts';
import { sayTime } from '../shared/time.ts';
import { HoldBar } from '../devices/HoldBar.tsx';
import { Verdict, type VerdictTone } from '../devices/Verdict.tsx';
import { Reckoning, Row } from '../parts/index.ts';
import { holdReckoning } from './hold-reckoning.ts';

const DAY_MS = 24 * 3_600_000;
const HOUR_MS = 3_600_000;

/** What the hold's rule says, when it will be over, and, for cure, what a warmer room would change. */
export function HoldPanel({ hold, batch, nowMs }: { hold: Hold; batch: BatchDetail; nowMs: number }) {
  const { zone } = batch;
  const say = (ms: number): string => sayTime(ms, zone, nowMs);
  const sayForecast = (ms: number): string => sayTime(ms, zone, nowMs, rangeOf(hold));
  const until =
    hold.endMs === null
      ? hold.rule === 'called'
        ? 'until it is ended'
        : 'no date yet'
      : sayForecast(hold.endMs);
  const reckoned = holdReckoning(hold, batch, say);
  const axisDays = Math.max(2, Math.ceil(((hold.highMs ?? hold.endMs ?? nowMs) - nowMs) / DAY_MS) + 1);
  return (
    <Verdict tone={toneOf(hold)} sentence={`${hold.operationName}: ${hold.sentence}`}>
      <Typography color="textSecondary">
        {hold.positions.length} {hold.positions.length === 1 ? 'piece' : 'pieces'}, since {say(hold.sinceMs)}
        {forecastWords(hold, sayForecast)}
      </Typography>
      <Box style={{ margin: '8px 0 4px' }}>
        <HoldBar
          code={batch.code}
          word={hold.word}
          over={hold.over}
          nowMs={nowMs}
          axisEndMs={nowMs + axisDays * DAY_MS}
          endMs={hold.endMs}
          lowMs={hold.lowMs}
          highMs={hold.highMs}
          until={until}
          href={`/batch/${batch.code}`}
        />
      </Box>
      {hold.rule === 'cure' && !hold.over && <WarmerRoom hold={hold} batch={batch} nowMs={nowMs} />}
      {hold.rule === 'settle' && !hold.over && (
        <Typography>
          <Link to="/stage/assembly?place=shelf">See each of them on the settling shelf</Link>
        </Typography>
      )}
      {reckoned && <Reckoning {...reckoned} />}
    </Verdict>
  );
}

function toneOf(hold: Hold): VerdictTone {
  if (hold.over) return 'good';
  if (hold.rejected) return 'bad';
  return hold.rule === 'called' ? 'wait' : 'hold';
}

function forecastWords(hold: Hold, say: (ms: number) => string): string {
  if (hold.over || hold.endMs === null)
    return hold.rule === 'moisture' && !hold.over ? ' · no date: read it, or see its room' : '';
  const range = hold.lowMs !== null && hold.highMs !== null && hold.highMs - hold.lowMs > HOUR_MS;
  return ` · forecast ${say(hold.endMs)}${range ? `, between ${say(hold.lowMs ?? 0)} and ${say(hold.highMs ?? 0)}` : ''}`;
}

const COLDEST_C = 16;
const WARMEST_C = 30;

/** The same rule with the room held at another temperature from now on. */
function WarmerRoom({ hold, batch, nowMs }: { hold: Hold; batch: BatchDetail; nowMs: number }) {
  const operation = operationOf(batch.route, hold.operation);
  const room = operation.mode === 'hold' ? operation.room : '';
  const samples = batch.climate.find((climate) => climate.room === room)?.samples ?? [];
  const last = samples.at(-1);
  const [temperatureC, setTemperatureC] = useState(() => Math.round(last?.temperatureC ?? 21));
  if (!last || !batch.state || operation.mode !== 'hold' || hold.curedHours === null) return null;
  const climate: ClimateSample[] = [
    { atMs: nowMs, temperatureC, relativeHumidityPct: last.relativeHumidityPct },
  ];
  const cure = {
    sinceMs: hold.sinceMs,
    referenceHours: hold.curedHours,
    ...(hold.neededHours === null ? {} : { neededHours: hold.neededHours }),
  };
  const { endMs } = forecastEnd(operation, { ...holdContext(batch.state, hold, nowMs), climate, cure });
  const gainedH = endMs === null || hold.endMs === null ? 0 : (hold.endMs - endMs) / HOUR_MS;
  return (
    <Row style={{ gap: 16 }}>
      <span>
        {room} now {last.temperatureC.toFixed(1)} °C, {last.relativeHumidityPct.toFixed(0)} % RH. If it were
        at
      </span>
      <Slider
        value={temperatureC}
        min={COLDEST_C}
        max={WARMEST_C}
        step={1}
        onChange={(_event, value: number | number[]) =>
          setTemperatureC(Array.isArray(value) ? (value[0] ?? COLDEST_C) : value)
        }
        aria-label={`Temperature of ${room}`}
        getAriaValueText={(value) => `${value} °C`}
        sx={{ width: 150 }}
        size="small"
      />
      <strong>
        {temperatureC} °C → {endMs === null ? 'no date' : sayTime(endMs, batch.zone, nowMs)}
        {Math.abs(gainedH) >= 1 && `, ${Math.abs(gainedH).toFixed(0)} h ${gainedH > 0 ? 'sooner' : 'later'}`}
      </strong>
    </Row>
  );
}
