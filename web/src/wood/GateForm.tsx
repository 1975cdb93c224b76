import { MAY_BE, type MoistureGate } from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { answered, server } from '../api/client.ts';
import { LastChange } from '../changes/LastChange.tsx';
import { useSeenChange } from '../changes/useSeenChange.ts';
import { AskChoice, AskNumber, Form, Leave, useDraft } from '../fields/index.ts';
import { Panel, Row } from '../parts/index.ts';
import { useWoodGate, type WoodGate } from './queries.ts';
import { numberOf } from '../shared/typed.ts';
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
  const { perform, busy, refusal } = useWoodFiling();
  const { lastChange, lookAgain } = useSeenChange();
  const begin = {
    school: gate.school as string,
    lowPct: pct(window.lowPct),
    highPct: pct(window.highPct),
    temperatureC: gate.school === 'destination' ? String(gate.air.temperatureC) : '21',
    relativeHumidityPct: gate.school === 'destination' ? String(gate.air.relativeHumidityPct) : '42',
    tolerancePct: gate.school === 'destination' ? String(gate.tolerancePct) : '1.0',
  };
  const draft = useDraft('wood gate', begin);
  const school = useWatch({ control: draft.form.control, name: 'school' });
  const wanted = (values: typeof begin): MoistureGate =>
    values.school === 'fixed'
      ? { school: 'fixed', lowPct: numberOf(values.lowPct), highPct: numberOf(values.highPct) }
      : {
          school: 'destination',
          air: {
            temperatureC: numberOf(values.temperatureC),
            relativeHumidityPct: numberOf(values.relativeHumidityPct),
          },
          tolerancePct: numberOf(values.tolerancePct),
        };
  const save = async (values: typeof begin): Promise<boolean> => {
    const done = await perform((by, key) =>
      answered(
        server.PUT('/api/wood/gate', {
          body: { by, key, lastChange: lastChange(), gate: wanted(values) },
        }),
      ),
    );
    void lookAgain();
    if (done) onDone();
    return done !== null;
  };
  return (
    <Form draft={draft} refusal={refusal} lay="stack" style={{ marginTop: 10 }} onFile={save}>
      <AskChoice
        name="school"
        label="School"
        options={[
          { value: 'fixed', words: 'A window we trust' },
          { value: 'destination', words: 'The air it is going to, ± a tolerance' },
        ]}
      />
      {school === 'fixed' ? (
        <Row key="fixed">
          <AskNumber name="lowPct" label="From" unit="%" {...MAY_BE.bandPct} />
          <AskNumber name="highPct" label="To" unit="%" {...MAY_BE.bandPct} />
        </Row>
      ) : (
        <Row key="destination">
          <AskNumber name="temperatureC" label="Temperature" unit="°C" {...MAY_BE.gateC} />
          <AskNumber name="relativeHumidityPct" label="Humidity" unit="%" {...MAY_BE.gateRhPct} />
          <AskNumber name="tolerancePct" label="Within ±" unit="%" {...MAY_BE.gateTolerancePct} />
        </Row>
      )}
      <Row>
        <Button type="submit" variant="contained" disabled={busy}>
          Use this gate
        </Button>
        <Leave draft={draft} onLeft={onDone} />
      </Row>
    </Form>
  );
}
