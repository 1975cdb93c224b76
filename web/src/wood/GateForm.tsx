import type { MoistureGate } from '@ample-crane/core';
import { Button, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { LastChange } from '../changes/LastChange.tsx';
import { Form } from '../fields/Form.tsx';
import { Panel, Row } from '../parts/index.ts';
import { useWoodGate, type WoodGate } from './queries.ts';
import { Refused } from '../devices/Refused.tsx';
import { useWoodFiling } from './useWoodFiling.ts';
import { pct } from './words.ts';

/** How dry lumber must be to be cut: both schools. Racks have their route's own rule. */
export function GateForm() {
  const { data } = useWoodGate();
  const [open, setOpen] = useState(false);
  if (!data) return null;
  const { gate, window } = data;
  return (
    <Panel label="Gate">
      <Typography variant="h2">How dry is dry enough</Typography>
      <Typography>
        Lumber passes at {pct(window.lowPct)}–{pct(window.highPct)} %:{' '}
        {gate.school === 'fixed'
          ? 'a window this factory trusts.'
          : `the EMC of ${pct(gate.air.temperatureC)} °C and ${gate.air.relativeHumidityPct.toFixed(0)} % RH, where it is going, ± ${pct(gate.tolerancePct)}.`}
      </Typography>
      {open ? (
        <GateEdit seen={data} onDone={() => setOpen(false)} />
      ) : (
        <Button onClick={() => setOpen(true)} sx={{ mt: 1 }}>
          Change
        </Button>
      )}
      <LastChange setting="wood gate" />
    </Panel>
  );
}

function GateEdit({ seen, onDone }: { seen: WoodGate; onDone: () => void }) {
  const { gate, window } = seen;
  const { perform, busy, refused } = useWoodFiling();
  const [school, setSchool] = useState(gate.school);
  const [fields, setFields] = useState<Record<string, string>>({
    low: pct(window.lowPct),
    high: pct(window.highPct),
    temperature: gate.school === 'destination' ? String(gate.air.temperatureC) : '21',
    humidity: gate.school === 'destination' ? String(gate.air.relativeHumidityPct) : '42',
    tolerance: gate.school === 'destination' ? String(gate.tolerancePct) : '1.0',
  });
  const value = (name: string): number => Number((fields[name] ?? '').replace(',', '.'));
  const input = (name: string, label: string) => (
    <TextField
      key={name}
      label={label}
      value={fields[name]}
      onChange={(event) => setFields((now) => ({ ...now, [name]: event.target.value }))}
      sx={{ width: 130 }}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
    />
  );
  const wanted = (): MoistureGate =>
    school === 'fixed'
      ? { school, lowPct: value('low'), highPct: value('high') }
      : {
          school,
          air: { temperatureC: value('temperature'), relativeHumidityPct: value('humidity') },
          tolerancePct: value('tolerance'),
        };
  const save = async (): Promise<void> => {
    const done = await perform((by, key) =>
      answered(server.PUT('/api/wood/gate', { body: { by, key, gate: wanted() } })),
    );
    if (done) onDone();
  };
  return (
    <Form lay="stack" style={{ marginTop: 10 }} onFile={save}>
      <TextField
        select
        label="School"
        value={school}
        onChange={(event) => setSchool(event.target.value as MoistureGate['school'])}
      >
        <MenuItem value="fixed">A window we trust</MenuItem>
        <MenuItem value="destination">The air it is going to, ± a tolerance</MenuItem>
      </TextField>
      <Row>
        {school === 'fixed'
          ? [input('low', 'From, %'), input('high', 'To, %')]
          : [
              input('temperature', 'Temperature, °C'),
              input('humidity', 'Humidity, %'),
              input('tolerance', '±, %'),
            ]}
      </Row>
      <Row>
        <Button type="submit" variant="contained" disabled={busy}>
          Use this gate
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </Row>
      <Refused words={refused} />
    </Form>
  );
}
