import { count, loggedAirEmcPct, MAY_BE } from '@ample-crane/core';
import { Button, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceArea,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { answered, server, type Schemas } from '../api/client.ts';
import { useFloor } from '../api/queries.ts';
import { LastChange } from '../changes/LastChange.tsx';
import { useSeenChange } from '../changes/useSeenChange.ts';
import { sayDayOf, sayTime } from '../shared/time.ts';
import { EmcGauge } from '../devices/EmcGauge.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, EmptyState, Opening, Page, Panel, Quiet, Reckoning, Row } from '../parts/index.ts';
import { useCourse, useRooms, type Room } from './queries.ts';
import { numberOf } from '../shared/typed.ts';
import { AskNumber, AskText, AskTick, Choice, Form, useDraft } from '../fields/index.ts';
import { useWoodFiling } from './useWoodFiling.ts';
import { pct } from './words.ts';
import { WoodNav } from './WoodNav.tsx';
import './RoomsPage.css';

const SPANS = [
  { days: 3, name: '3 days' },
  { days: 30, name: '30 days' },
  { days: 90, name: '90 days' },
  { days: 365, name: 'a year' },
];

/** Every room against the EMC it should hold, one of them over time. */
export default function RoomsPage() {
  const { room: named } = useParams();
  const { data: rooms, error } = useRooms();
  const { data: floor } = useFloor();
  if (!rooms || !floor) return <Opening error={error} />;
  const shown =
    rooms.find(({ room }) => room === named) ?? rooms.find(({ holdsWood }) => holdsWood) ?? rooms[0];
  return (
    <Page title="Rooms" tabs={<WoodNav />}>
      {shown ? (
        <Columns>
          <Stack>
            <RoomVerdict room={shown} nowMs={floor.nowMs} zone={floor.zone} />
            <Course room={shown} zone={floor.zone} />
            <TypeAir key={shown.room} room={shown} />
          </Stack>
          <Stack>
            <Panel label="All rooms">
              {rooms.map((room) => (
                <RoomLine key={room.room} room={room} here={room === shown} />
              ))}
            </Panel>
          </Stack>
        </Columns>
      ) : (
        <EmptyState>No room is set up.</EmptyState>
      )}
    </Page>
  );
}

function RoomLine({ room, here }: { room: Room; here: boolean }) {
  const mark = room.drift ? `too ${room.drift.damp ? 'damp' : 'dry'}` : room.health.words;
  return (
    <Link
      to={`/wood/rooms/${encodeURIComponent(room.room)}`}
      className={`roomline${here ? ' here' : ''}`}
      aria-current={here ? 'page' : undefined}
      data-rack={room.room}
    >
      <span>
        <strong>{room.room}</strong>{' '}
        <Quiet>
          {room.air
            ? `${pct(room.air.temperatureC)} °C · ${room.air.relativeHumidityPct.toFixed(0)} % RH`
            : 'nothing logged'}
        </Quiet>
        {mark && <span style={{ color: 'var(--oxblood)' }}> {mark}</span>}
      </span>
      <EmcGauge
        emcPct={room.emcPct}
        band={room.band}
        words={`EMC ${room.emcPct === null ? 'unknown' : pct(room.emcPct)}, should be ${pct(room.band.lowPct)} to ${pct(room.band.highPct)} %`}
      />
    </Link>
  );
}

function RoomVerdict({ room, nowMs, zone }: { room: Room; nowMs: number; zone: string }) {
  const { emcPct, band, drift, wantedRhPct, air, health, trouble, lastMs } = room;
  const should = `should be ${pct(band.lowPct)}–${pct(band.highPct)} %`;
  const sentence =
    emcPct === null
      ? `${room.room}: no air is logged yet.`
      : drift
        ? `${room.room} is too ${drift.damp ? 'damp' : 'dry'}: EMC ${pct(drift.emcPct)} % for ${drift.hours.toFixed(0)} h, ${should}.`
        : emcPct < band.lowPct || emcPct > band.highPct
          ? `${room.room} is at EMC ${pct(emcPct)} %, ${should}; for less than an hour so far.`
          : `${room.room} holds: EMC ${pct(emcPct)} %, ${should}.`;
  return (
    <Verdict tone={drift ? 'bad' : emcPct === null ? 'hold' : 'good'} sentence={sentence}>
      {air && wantedRhPct !== null && (
        <Typography>
          {pct(air.temperatureC)} °C and {air.relativeHumidityPct.toFixed(0)} % RH now;{' '}
          {wantedRhPct.toFixed(0)} % RH would hold the middle of the band.
        </Typography>
      )}
      {lastMs !== null && (
        <Typography color="textSecondary">
          Last reading {sayTime(lastMs, zone, nowMs)}.{' '}
          {health.state === 'well' ? 'The sensor is well.' : `The sensor is ${health.words}.`}
          {trouble?.nonsenseSaid &&
            ` It sent ${count(trouble.nonsense, 'message')} that cannot be kept, the last: ${trouble.nonsenseSaid}.`}
          {trouble !== null &&
            trouble.dropped > 0 &&
            ` ${count(trouble.dropped, 'reading')} had to be dropped: the database was away too long.`}
          {trouble?.clockOffMs != null &&
            ' Its clock was wrong: those readings are stamped with their arrival.'}
        </Typography>
      )}
      {air && emcPct !== null && (
        <Reckoning
          put={[
            ['air now', `${pct(air.temperatureC)} °C, ${air.relativeHumidityPct.toFixed(0)} % RH`],
            ['its EMC', `${emcPct.toFixed(2)} %`],
            ['should be', `${pct(band.lowPct)}–${pct(band.highPct)} %`],
          ]}
          formula="EMC is the moisture wood drifts to in this air if it stays so: more with humidity, a little less with warmth. A room drifts when its hourly means have lain on one side of what it should hold for more than an hour; what is said of it is their mean."
          source="Hailwood and Horrobin, Wood Handbook, chapter 4, equation 4-5; colder than −1 °C counts as −1 °C."
        />
      )}
    </Verdict>
  );
}

interface Point {
  atMs: number;
  emc: number;
  emcBand: [number, number];
  temperature: number;
  temperatureBand: [number, number];
}

/** The extremes of a span as extremes of EMC: damp goes with cold. */
function pointOf(span: Schemas['ClimateSpanDto']): Point {
  const emc = (temperatureC: number, relativeHumidityPct: number): number =>
    loggedAirEmcPct({ temperatureC, relativeHumidityPct });
  return {
    atMs: span.atMs,
    emc: emc(span.temperatureC, span.relativeHumidityPct),
    emcBand: [emc(span.highC, span.lowRhPct), emc(span.lowC, span.highRhPct)],
    temperature: span.temperatureC,
    temperatureBand: [span.lowC, span.highC],
  };
}

function Course({ room, zone }: { room: Room; zone: string }) {
  const [days, setDays] = useState(30);
  const { data } = useCourse(room.room, days);
  const points = data?.spans.map(pointOf) ?? [];
  const first = points[0]?.atMs ?? 0;
  const last = points.at(-1)?.atMs ?? 0;
  return (
    <Panel label="Over time">
      <Row style={{ justifyContent: 'space-between' }}>
        <Typography variant="h2">EMC over time</Typography>
        <Choice
          label="Look back"
          value={String(days)}
          onChange={(chosen) => setDays(Number(chosen))}
          options={SPANS.map((span) => ({ value: String(span.days), words: span.name }))}
          width={130}
        />
      </Row>
      {points.length === 0 && <Typography color="textSecondary">Nothing is logged for this time.</Typography>}
      {points.length > 0 && (
        <figure style={{ margin: 0 }} aria-label={`EMC of ${room.room}`}>
          <CoursePlot
            points={points}
            y="emc"
            band="emcBand"
            colour="var(--shellac)"
            unit="%"
            height={230}
            zone={zone}
            limits={room.band}
          />
          <CoursePlot
            points={points}
            y="temperature"
            band="temperatureBand"
            colour="var(--slate)"
            unit="°C"
            height={120}
            zone={zone}
          />
          <Typography component="figcaption" variant="inherit" color="textSecondary">
            Line: mean of {data?.hoursASpan === 1 ? 'each hour' : `every ${data?.hoursASpan} hours`}. Shaded:
            the lowest and highest in that time. {sayDayOf(first, zone)} to {sayDayOf(last, zone)}; the green
            band is what the room should hold.
          </Typography>
        </figure>
      )}
    </Panel>
  );
}

function CoursePlot(props: {
  points: Point[];
  y: 'emc' | 'temperature';
  band: 'emcBand' | 'temperatureBand';
  colour: string;
  unit: string;
  height: number;
  zone: string;
  limits?: { lowPct: number; highPct: number };
}) {
  const { points, y, band, colour, unit, height, zone, limits } = props;
  return (
    <ResponsiveContainer width="100%" height={height}>
      <ComposedChart data={points} margin={{ top: 8, right: 12, bottom: 0, left: -10 }} accessibilityLayer>
        <CartesianGrid stroke="var(--fibre)" vertical={false} />
        {limits && (
          <ReferenceArea
            y1={limits.lowPct}
            y2={limits.highPct}
            fill="var(--verdigris)"
            fillOpacity={0.14}
            ifOverflow="extendDomain"
          />
        )}
        <XAxis
          dataKey="atMs"
          type="number"
          scale="time"
          domain={['dataMin', 'dataMax']}
          tickFormatter={(ms: number) => sayDayOf(ms, zone)}
          stroke="var(--umber)"
          tickLine={false}
          minTickGap={40}
        />
        <YAxis
          domain={[
            (low: number) => Math.floor(Math.min(low, limits?.lowPct ?? low)),
            (high: number) => Math.ceil(Math.max(high, limits?.highPct ?? high)),
          ]}
          allowDecimals={false}
          stroke="var(--umber)"
          tickLine={false}
          axisLine={false}
          tickFormatter={(value: number) => `${Math.round(10 * value) / 10} ${unit}`}
          width={70}
        />
        <Area dataKey={band} fill={colour} fillOpacity={0.22} stroke="none" isAnimationActive={false} />
        <Line dataKey={y} stroke={colour} strokeWidth={1.6} dot={false} isAnimationActive={false} />
      </ComposedChart>
    </ResponsiveContainer>
  );
}

/** Air typed from a wall gauge, a logger's file, and the band the room should hold. */
function TypeAir({ room }: { room: Room }) {
  return (
    <Panel label="Log air">
      <Typography variant="h2">Log the air of {room.room}</Typography>
      <Row style={{ justifyContent: 'space-between', alignItems: 'flex-start' }}>
        <AirNow room={room} />
        <BandForm room={room} />
      </Row>
      <LastChange setting="room" name={room.room} />
      <LoggerSheet room={room} />
    </Panel>
  );
}

const NO_AIR = { temperatureC: '', relativeHumidityPct: '' };

function AirNow({ room: { room } }: { room: Room }) {
  const { perform, busy, refusal } = useWoodFiling();
  const { data: floor } = useFloor();
  const draft = useDraft(`air of ${room}`, NO_AIR);
  const keep = (asked: typeof NO_AIR): unknown => {
    if (!floor) return false;
    const temperatureC = numberOf(asked.temperatureC);
    const relativeHumidityPct = numberOf(asked.relativeHumidityPct);
    const at = new Date(floor.nowMs).toISOString();
    return perform(
      () =>
        answered(
          server.POST('/api/climate', {
            body: { readings: [{ room, at, temperatureC, relativeHumidityPct }] },
          }),
        ),
      () => `Noted: ${room}, ${temperatureC} °C, ${relativeHumidityPct} % RH.`,
    );
  };
  return (
    <Form draft={draft} refusal={refusal} lay="row" style={{ marginTop: 8 }} onFile={keep}>
      <AskNumber name="temperatureC" label="Air" unit="°C" {...MAY_BE.airC} width={110} />
      <AskNumber name="relativeHumidityPct" label="Humidity" unit="% RH" {...MAY_BE.airRhPct} width={120} />
      <Button type="submit" disabled={busy}>
        Note it as now
      </Button>
    </Form>
  );
}

function BandForm({ room: { room, band } }: { room: Room }) {
  const { perform, busy, refusal } = useWoodFiling();
  const begin = { lowPct: pct(band.lowPct), highPct: pct(band.highPct) };
  const draft = useDraft(`band of ${room}`, begin, { keep: ['lowPct', 'highPct'] });
  const { lastChange, lookAgain } = useSeenChange();
  const hold = async ({ lowPct, highPct }: typeof begin): Promise<unknown> => {
    const band = { lowPct: numberOf(lowPct), highPct: numberOf(highPct) };
    const done = await perform(
      (by, key) =>
        answered(
          server.PUT('/api/climate/rooms/{room}', {
            params: { path: { room } },
            body: { by, key, lastChange: lastChange(), ...band },
          }),
        ),
      () => `${room} should hold ${lowPct}–${highPct} %.`,
    );
    void lookAgain();
    return done;
  };
  return (
    <Form draft={draft} refusal={refusal} lay="row" style={{ marginTop: 8 }} onFile={hold}>
      <AskNumber name="lowPct" label="EMC from" unit="%" {...MAY_BE.bandPct} width={110} />
      <AskNumber name="highPct" label="to" unit="%" {...MAY_BE.bandPct} width={100} />
      <Button type="submit" disabled={busy}>
        Should hold
      </Button>
    </Form>
  );
}

const NO_SHEET = { sheet: '', goodRowsOnly: false };

function LoggerSheet({ room: { room } }: { room: Room }) {
  const { perform, busy, refusal } = useWoodFiling();
  const draft = useDraft(`logger of ${room}`, NO_SHEET);
  const keep = (asked: typeof NO_SHEET): Promise<unknown> =>
    perform(
      () => answered(server.POST('/api/climate/sheet', { body: { room, ...asked } })),
      ({ kept }) =>
        kept === 0
          ? 'All of that was logged before: nothing was added.'
          : `Noted ${count(kept, 'reading')} of ${room}.`,
    );
  return (
    <Form draft={draft} refusal={refusal} style={{ marginTop: 16 }} onFile={keep}>
      <AskText
        name="sheet"
        label="A logger’s file: time, temperature, humidity"
        placeholder={'time,temperature,humidity\n2026-11-23 08:00,21.2,37'}
        wrong={(sheet) => (sheet.trim() === '' ? 'its lines, pasted here' : undefined)}
        most={6}
      />
      <Row style={{ marginTop: 8 }}>
        <Button type="submit" disabled={busy}>
          Keep the file
        </Button>
        {refusal && <AskTick name="goodRowsOnly" label="only its good rows" />}
      </Row>
    </Form>
  );
}
