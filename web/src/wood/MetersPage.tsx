import {
  Box,
  Button,
  MenuItem,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { useState } from 'react';
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
import { Form } from '../fields/Form.tsx';
import { Columns, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { useMeters, type Meter } from './queries.ts';
import { typedNumber } from '../shared/typed.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
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
          <TableHead>
            <TableRow>
              {['reading', 'wood', 'wet', 'dry', 'oven-dry moisture', 'when'].map((head) => (
                <TableCell key={head} scope="col">
                  {head}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
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

function SampleForm({ meter, species: shown }: { meter: Meter; species: string }) {
  const { data: setup } = useSetup();
  const { perform, busy, refused } = useWoodFiling();
  const [species, setSpecies] = useState(shown);
  const [fields, setFields] = useState({ reading: '', temperature: '21', wet: '', dry: '' });
  const [reading, temperature, wet, dry] = [fields.reading, fields.temperature, fields.wet, fields.dry].map(
    typedNumber,
  );
  const ready = species !== '' && reading != null && temperature != null && wet != null && dry != null;
  const moisture = wet != null && dry != null && dry > 0 && wet >= dry ? (100 * (wet - dry)) / dry : null;
  const field = (name: keyof typeof fields, label: string) => (
    <TextField
      label={label}
      value={fields[name]}
      onChange={(event) => setFields((now) => ({ ...now, [name]: event.target.value }))}
      sx={{ width: 110 }}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
    />
  );
  const keep = async (): Promise<void> => {
    if (reading == null || temperature == null || wet == null || dry == null) return;
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/meters/{code}/samples', {
            params: { path: { code: meter.code } },
            body: {
              key,
              by,
              species,
              readingPct: reading,
              woodTemperatureC: temperature,
              wetG: wet,
              dryG: dry,
            },
          }),
        ),
      () => `Noted a sample of ${species} on ${meter.code}.`,
    );
    if (done) setFields((now) => ({ ...now, reading: '', wet: '', dry: '' }));
  };
  return (
    <Form lay="stack" panel label="Oven-dry sample" onFile={keep}>
      <Typography variant="h2">Oven-dry sample on {meter.code}</Typography>
      <TextField select label="Species" value={species} onChange={(event) => setSpecies(event.target.value)}>
        {(setup?.species ?? []).map(({ name }) => (
          <MenuItem key={name} value={name}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <Row>
        {field('reading', 'Reading, %')}
        {field('temperature', 'Wood, °C')}
        {field('wet', 'Wet, g')}
        {field('dry', 'Dry, g')}
      </Row>
      <Typography role="status">
        {moisture === null
          ? 'Dry at 103 ± 2 °C to constant mass.'
          : `Oven-dry moisture ${moisture.toFixed(2)} %`}
      </Typography>
      <Box>
        <Button type="submit" disabled={busy || !ready}>
          Note the sample
        </Button>
      </Box>
      <Refused words={refused} />
    </Form>
  );
}

function RegisterForm() {
  const { perform, busy, refused } = useWoodFiling();
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const [kind, setKind] = useState<'pin' | 'pinless'>('pin');
  const register = async (): Promise<void> => {
    const done = await perform(
      () => answered(server.POST('/api/meters', { body: { code: code.trim(), name: name.trim(), kind } })),
      () => `Registered ${code}.`,
    );
    if (done) {
      setCode(unlessTypedSince(code));
      setName(unlessTypedSince(name));
    }
  };
  return (
    <Form lay="stack" panel label="Register a meter" onFile={register}>
      <Typography variant="h2">Another meter</Typography>
      <Row>
        <TextField
          label="Code"
          value={code}
          onChange={(event) => setCode(event.target.value)}
          sx={{ width: 90 }}
        />
        <TextField
          label="What it is"
          value={name}
          onChange={(event) => setName(event.target.value)}
          sx={{ width: 160 }}
        />
        <TextField
          select
          label="Kind"
          value={kind}
          onChange={(event) => setKind(event.target.value as 'pin' | 'pinless')}
          sx={{ width: 96 }}
        >
          <MenuItem value="pin">pin</MenuItem>
          <MenuItem value="pinless">pinless</MenuItem>
        </TextField>
      </Row>
      <Box>
        <Button type="submit" disabled={busy || code.trim() === '' || name.trim() === ''}>
          Register
        </Button>
      </Box>
      <Refused words={refused} />
    </Form>
  );
}
