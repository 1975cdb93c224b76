import { loggedAirEmcPct, relativeHumidityForEmcPct, type Air } from '@ample-crane/core';
import { Box, Button, Slider, Typography } from '@mui/material';
import { EmcGauge } from '../devices/EmcGauge.tsx';
import { Panel, Quiet } from '../parts/index.ts';
import type { Drying, Room } from './queries.ts';
import { pct } from './words.ts';
import './WhatIf.css';

/** Where the equation of the EMC ends. */
const COLDEST_C = -1;

/** The room the wood is in, against its band, and two sliders: what if it were at another humidity or temperature. */
export function WhatIf(props: {
  drying: Drying;
  room: Room | undefined;
  air: Air;
  onAir: (air: Air | null) => void;
  answer: string;
}) {
  const { drying, room, air, onAir, answer } = props;
  const emcPct = loggedAirEmcPct(air);
  const middle = (drying.window.lowPct + drying.window.highPct) / 2;
  const wanted = relativeHumidityForEmcPct({
    temperatureC: Math.max(COLDEST_C, air.temperatureC),
    emcPct: middle,
  });
  const changed = air !== drying.air;
  const gate = `the gate is ${pct(drying.window.lowPct)} to ${pct(drying.window.highPct)} %`;
  return (
    <Panel label={drying.room}>
      <Typography variant="h2">
        {drying.room}{' '}
        {room?.air && (
          <Quiet small>
            {pct(room.air.temperatureC)} °C · {room.air.relativeHumidityPct.toFixed(0)} % RH · EMC{' '}
            {room.emcPct === null ? '–' : pct(room.emcPct)} %
          </Quiet>
        )}
      </Typography>
      <EmcGauge
        emcPct={room?.emcPct ?? null}
        band={drying.window}
        words={`${room?.emcPct == null ? 'The air of this room is not known' : `Its air takes the wood to ${pct(room.emcPct)} %`}; ${gate}`}
      />
      {room?.drift && (
        <Typography style={{ color: 'var(--oxblood)', fontWeight: 700 }}>
          Too {room.drift.damp ? 'damp' : 'dry'} for {room.drift.hours.toFixed(0)} h: EMC{' '}
          {pct(room.drift.emcPct)} %, should be {pct(room.band.lowPct)}–{pct(room.band.highPct)} %.
        </Typography>
      )}
      <Typography variant="h3" style={{ marginTop: 10 }}>
        What if the room were at
      </Typography>
      <Box className="sliderrow">
        <span>{air.relativeHumidityPct.toFixed(0)} % RH</span>
        <Slider
          size="small"
          min={15}
          max={75}
          step={1}
          value={air.relativeHumidityPct}
          onChange={(_, value) => onAir({ ...air, relativeHumidityPct: value })}
          aria-label="Relative humidity of the room"
        />
      </Box>
      <Box className="sliderrow">
        <span>{pct(air.temperatureC)} °C</span>
        <Slider
          size="small"
          min={10}
          max={40}
          step={0.5}
          value={air.temperatureC}
          onChange={(_, value) => onAir({ ...air, temperatureC: value })}
          aria-label="Temperature of the room"
        />
      </Box>
      {changed && (
        <EmcGauge
          emcPct={emcPct}
          band={drying.window}
          words={`That air would take the wood to ${pct(emcPct)} %; ${gate}`}
        />
      )}
      <Typography role="status" style={{ color: 'var(--slate)', fontWeight: 700 }}>
        EMC {pct(emcPct)} %. {answer}
      </Typography>
      <Typography color="textSecondary">
        To hold {pct(middle)} % at {pct(air.temperatureC)} °C the room wants {wanted.toFixed(0)} % RH.{' '}
        {changed
          ? 'This is only a question: nothing is changed.'
          : 'Assumed for the days to come: the room’s mean of the last seven.'}
      </Typography>
      {changed && <Button onClick={() => onAir(null)}>Back to the room as it is</Button>}
    </Panel>
  );
}
