import { MAY_BE } from '@ample-crane/core';
import { Box, Button, Stack, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import {
  CartesianGrid,
  ComposedChart,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
} from 'recharts';
import { answered, server, type Schemas } from '../api/client.ts';
import { useFloor, useSetup } from '../api/queries.ts';
import { sayDate } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { ColumnHeads, Columns, Opening, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { useMeters, type Meter } from './queries.ts';
import { numberOf, typedNumber } from '../shared/typed.ts';
import { AskChoice, AskFrom, AskNumber, asOptions, AskWords, Form, useDraft } from '../fields/index.ts';
import { useWoodFiling } from './useWoodFiling.ts';
import { WoodNav } from './WoodNav.tsx';

type Calibration = Schemas['CalibrationDto'];

/** Meters, the oven-dry samples they were tested with, and the lines that correct their readings. */
export default function MetersPage() {
  const { data: meters, error } = useMeters();
  const { data: floor } = useFloor();
  const [chosen, setChosen] = useState('');
  const [species, setSpecies] = useState('');
  if (!meters || !floor) return <Opening error={error} />;
  const meter =
    meters.find(({ code }) => code === chosen) ??
    meters.find(({ calibrations }) => calibrations.some(({ line }) => line)) ??
    meters[0];
  const calibration =
    meter?.calibrations.find((c) => c.species === species) ??
    meter?.calibrations.find(({ line }) => line) ??
    meter?.calibrations[0];
  return (
    <Page title="Meters" tabs={<WoodNav />}>
      <Columns>
        <Stack>
          {meter && calibration && (
            <CalibrationView meter={meter} calibration={calibration} zone={floor.zone} />
          )}
          {meter && !calibration && (
            <Verdict
              tone="wait"
              sentence={`${meter.code} was never tested: its readings are taken as they are.`}
            >
              <Typography>
                Weigh three samples or more, dry them at 103 °C until they lose no more weight, and note them
                on the right.
              </Typography>
            </Verdict>
          )}
        </Stack>
        <Stack>
          <Panel label="Meters">
            {meters.map((candidate) => (
              <Box key={candidate.code} style={{ marginBottom: 8 }}>
                <Typography variant="h3">
                  {candidate.code}{' '}
                  <Quiet small>
                    {candidate.name}, {candidate.kind}
                  </Quiet>
                </Typography>
                <Row>
                  {candidate.calibrations.map((c) => (
                    <Button
                      key={c.species}
                      size="small"
                      variant={candidate === meter && c === calibration ? 'contained' : 'outlined'}
                      aria-pressed={candidate === meter && c === calibration}
                      onClick={() => {
                        setChosen(candidate.code);
                        setSpecies(c.species);
                      }}
                    >
                      {c.species}
                      {!c.line && ' (no line)'}
                      {c.stale && ' (over a year old)'}
                    </Button>
                  ))}
                  {candidate.calibrations.length === 0 && (
                    <Button size="small" onClick={() => setChosen(candidate.code)}>
                      never tested
                    </Button>
                  )}
                </Row>
              </Box>
            ))}
          </Panel>
          {meter && (
            <SampleForm
              key={`${meter.code}${calibration?.species ?? ''}`}
              meter={meter}
              species={calibration?.species ?? ''}
            />
          )}
          <RegisterForm />
        </Stack>
      </Columns>
    </Page>
  );
}

function lineSentence({ code }: Meter, { species, line, stale, samples }: Calibration, zone: string): string {
  if (!line) {
    const more = Math.max(0, 3 - samples.length);
    return `${code} has no line for ${species}: readings are taken as they are. ${more > 0 ? `Test ${more} more ${more === 1 ? 'sample' : 'samples'}.` : 'Put the fitted line into use.'}`;
  }
  const sign = line.a < 0 ? '−' : '+';
  return `${species} on ${code}: moisture = ${line.b.toFixed(2)} × reading ${sign} ${Math.abs(line.a).toFixed(2)}, from ${line.samples} samples of ${sayDate(line.atMs, zone)}${stale ? ': older than a year, test it again' : ''}.`;
}

function CalibrationView({
  meter,
  calibration,
  zone,
}: {
  meter: Meter;
  calibration: Calibration;
  zone: string;
}) {
  const { perform, busy, refused } = useWoodFiling();
  const { fit, line, samples, species } = calibration;
  const fresh =
    fit !== null && (line === null || Math.abs(fit.a - line.a) > 0.005 || Math.abs(fit.b - line.b) > 0.0005);
  return (
    <>
      <Verdict
        tone={!line ? 'wait' : calibration.stale ? 'bad' : 'good'}
        sentence={lineSentence(meter, calibration, zone)}
      >
        {fit && (
          <Typography color="textSecondary">
            The {fit.count} samples scatter {fit.residualSdPct.toFixed(2)} % about their line; it was tested
            from {fit.fromPct.toFixed(1)} to {fit.toPct.toFixed(1)} % and is a guess beyond.
          </Typography>
        )}
        {fresh && fit && (
          <Typography>
            With all samples the line would be {fit.b.toFixed(2)} × reading {fit.a < 0 ? '−' : '+'}{' '}
            {Math.abs(fit.a).toFixed(2)}. Readings keep what the meter showed and are corrected anew, old ones
            too.{' '}
            <Button
              disabled={busy}
              onClick={() =>
                void perform(
                  (by, key) =>
                    answered(
                      server.POST('/api/meters/{code}/line', {
                        params: { path: { code: meter.code } },
                        body: { key, by, species },
                      }),
                    ),
                  () => `The new line of ${meter.code} for ${species} is in use.`,
                )
              }
            >
              Use it
            </Button>
          </Typography>
        )}
        <Refused words={refused} />
      </Verdict>
      <Panel label="Residuals">
        <Typography variant="h2">What each sample differs from the line</Typography>
        {!fit && (
          <Typography color="textSecondary">
            A line needs at least three samples that were not read alike; there are {samples.length}.
          </Typography>
        )}
        {fit && (
          <figure style={{ margin: 0 }} aria-label="Residuals of the oven-dry samples">
            <ResponsiveContainer width="100%" height={200}>
              <ComposedChart
                data={samples.map((sample, i) => ({
                  reading: sample.readingPct,
                  residual: fit.residualsPct[i],
                }))}
                margin={{ top: 10, right: 14, bottom: 16, left: 0 }}
                accessibilityLayer
              >
                <CartesianGrid stroke="var(--fibre)" />
                <XAxis
                  dataKey="reading"
                  type="number"
                  domain={[(low: number) => Math.floor(low - 0.3), (high: number) => Math.ceil(high + 0.3)]}
                  allowDecimals={false}
                  stroke="var(--umber)"

                  label={{ value: 'reading, %', position: 'insideBottom', offset: -10, fill: 'var(--umber)' }}
                />
                <YAxis
                  stroke="var(--umber)"
                  tickFormatter={(value: number) => value.toFixed(2)}
                  label={{
                    value: 'oven-dry minus line, %',
                    angle: -90,
                    position: 'insideLeft',
                    dy: 70,
                    fill: 'var(--umber)',
                  }}
                />
                <ReferenceLine y={0} stroke="var(--ebony)" />
                <Scatter dataKey="residual" fill="var(--shellac)" isAnimationActive={false} />
              </ComposedChart>
            </ResponsiveContainer>
          </figure>
        )}
        <Table>
          <ColumnHeads names={['reading', 'wood', 'wet', 'dry', 'oven-dry moisture', 'when']} />
          <TableBody>
            {samples.map((sample, i) => (
              <TableRow key={i}>
                <TableCell>{sample.readingPct.toFixed(1)} %</TableCell>
                <TableCell>{sample.woodTemperatureC.toFixed(0)} °C</TableCell>
                <TableCell>{sample.wetG.toFixed(2)} g</TableCell>
                <TableCell>{sample.dryG.toFixed(2)} g</TableCell>
                <TableCell>{sample.ovenDryPct.toFixed(2)} %</TableCell>
                <TableCell>{sayDate(sample.atMs, zone)}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Panel>
    </>
  );
}

const NO_SAMPLE = { species: '', readingPct: '', woodTemperatureC: '21', wetG: '', dryG: '' };

function SampleForm({ meter, species }: { meter: Meter; species: string }) {
  const { data: setup } = useSetup();
  const { perform, busy, refusal } = useWoodFiling();
  const draft = useDraft(
    `sample of ${species} on ${meter.code}`,
    { ...NO_SAMPLE, species },
    { keep: ['species', 'woodTemperatureC'] },
  );
  const [wet, dry] = useWatch({ control: draft.form.control, name: ['wetG', 'dryG'] }).map(typedNumber);
  const moisture = wet != null && dry != null && dry > 0 && wet >= dry ? (100 * (wet - dry)) / dry : null;
  const keep = (asked: typeof NO_SAMPLE): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/meters/{code}/samples', {
            params: { path: { code: meter.code } },
            body: {
              ...{ key, by, species: asked.species, readingPct: numberOf(asked.readingPct) },
              woodTemperatureC: numberOf(asked.woodTemperatureC),
              ...{ wetG: numberOf(asked.wetG), dryG: numberOf(asked.dryG) },
            },
          }),
        ),
      () => `Noted a sample of ${asked.species} on ${meter.code}.`,
    );
  return (
    <Form draft={draft} refusal={refusal} lay="stack" panel label="Oven-dry sample" onFile={keep}>
      <Typography variant="h2">Oven-dry sample on {meter.code}</Typography>
      <AskFrom
        name="species"
        label="Species"
        options={asOptions((setup?.species ?? []).map(({ name }) => name))}
        needed="which wood"
      />
      <Row>
        <AskNumber name="readingPct" label="Reading" unit="%" {...MAY_BE.readingPct} width={120} />
        <AskNumber name="woodTemperatureC" label="Wood" unit="°C" {...MAY_BE.woodC} width={120} />
        <AskNumber name="wetG" label="Wet" unit="g" {...MAY_BE.sampleG} width={120} />
        <AskNumber name="dryG" label="Dry" unit="g" {...MAY_BE.sampleG} width={120} />
      </Row>
      <Typography role="status">
        {moisture === null
          ? 'Dry at 103 ± 2 °C to constant mass.'
          : `Oven-dry moisture ${moisture.toFixed(2)} %`}
      </Typography>
      <Box>
        <Button type="submit" disabled={busy}>
          Note the sample
        </Button>
      </Box>
    </Form>
  );
}

const NO_METER = { code: '', name: '', kind: 'pin' };

function RegisterForm() {
  const { perform, busy, refusal } = useWoodFiling();
  const draft = useDraft('meter', NO_METER);
  const register = ({ code, name, kind }: typeof NO_METER): Promise<unknown> =>
    perform(
      () =>
        answered(
          server.POST('/api/meters', {
            body: { code: code.trim(), name: name.trim(), kind: kind === 'pin' ? 'pin' : 'pinless' },
          }),
        ),
      () => `Registered ${code}.`,
    );
  return (
    <Form draft={draft} refusal={refusal} lay="stack" panel label="Register a meter" onFile={register}>
      <Typography variant="h2">Another meter</Typography>
      <Row>
        <AskWords name="code" label="Code" needed="its code" most={40} width={110} />
        <AskWords name="name" label="What it is" needed="in words" most={80} width={180} />
        <AskChoice name="kind" label="Kind" options={asOptions(['pin', 'pinless'])} width={110} />
      </Row>
      <Box>
        <Button type="submit" disabled={busy}>
          Register
        </Button>
      </Box>
    </Form>
  );
}
