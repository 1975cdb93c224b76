import { Button } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { sayTime } from '../shared/time.ts';
import { typedNumber } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Typed } from '../fields/Typed.tsx';
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
    <section className="panel" aria-label="Test panels">
      <h2>Test panels</h2>
      {panels.length === 0 && (
        <p className="quiet">None was sprayed with it. A weighed panel beats the table.</p>
      )}
      {panels.map((panel) => (
        <p key={panel.code}>
          <Link to={`/finish/panels/${panel.code}`}>{panel.code}</Link>, {panel.weighings.length} weighings:{' '}
          {panel.fit === null || panel.curedMs === null
            ? panel.notEnough
            : `${panel.lostPct?.toFixed(1) ?? '–'} % of its solvent gone, cured ${panel.curedMs <= nowMs ? 'since' : 'by'} ${sayTime(panel.curedMs, zone, nowMs)}`}
        </p>
      ))}
      {step && (
        <form
          className="row"
          style={{ marginTop: 6 }}
          onSubmit={(event) => {
            event.preventDefault();
            void spray();
          }}
        >
          <Typed label="First weight, g" text={grams} onChange={setGrams} width={130} />
          <Button type="submit" disabled={busy || weight === null}>
            Hang a panel of {step.name}
          </Button>
        </form>
      )}
      <Refused words={refused} />
    </section>
  );
}
