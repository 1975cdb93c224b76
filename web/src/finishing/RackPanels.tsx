import { Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { sayTime } from '../shared/time.ts';
import { typedNumber } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Form } from '../fields/Form.tsx';
import { Typed } from '../fields/Typed.tsx';
import { Panel } from '../parts/index.ts';
import type { RackPage } from './queries.ts';

/** Test panels sprayed with the rack, and hanging up another one. */
export function RackPanels({ page }: { page: RackPage }) {
  const { perform, busy, refused } = usePerform();
  const [grams, setGrams] = useState('');
  const { panels, rack, state, zone, nowMs } = page;
  const step = state.finish?.coats.findLast((one) => state.coats.some((coat) => coat.step === one.step));
  const weight = grams.trim() === '' ? undefined : typedNumber(grams);
  const spray = async (): Promise<void> => {
    const made = await perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/panels', {
            body: {
              key,
              by,
              batch: rack.batch,
              step: step?.step ?? '',
              ...(weight === undefined || weight === null ? {} : { grams: weight }),
            },
          }),
        ),
      ({ code }) => `${code} hangs with ${rack.batch}. Weigh it tomorrow.`,
    );
    if (made) setGrams(unlessTypedSince(grams));
  };
  return (
    <Panel label="Test panels">
      <Typography variant="h2">Test panels</Typography>
      {panels.length === 0 && (
        <Typography color="textSecondary">
          None was sprayed with it. A weighed panel beats the table.
        </Typography>
      )}
      {panels.map((panel) => (
        <Typography key={panel.code}>
          <Link to={`/finish/panels/${panel.code}`}>{panel.code}</Link>, {panel.weighings.length} weighings:{' '}
          {panel.fit === null || panel.curedMs === null
            ? panel.notEnough
            : `${panel.lostPct?.toFixed(1) ?? '–'} % of its solvent gone, cured ${panel.curedMs <= nowMs ? 'since' : 'by'} ${sayTime(panel.curedMs, zone, nowMs)}`}
        </Typography>
      ))}
      {step && (
        <Form lay="row" style={{ marginTop: 6 }} onFile={spray}>
          <Typed label="First weight, g" text={grams} onChange={setGrams} width={130} />
          <Button type="submit" disabled={busy || weight === null}>
            Hang a panel of {step.name}
          </Button>
        </Form>
      )}
      <Refused words={refused} />
    </Panel>
  );
}
