import { MAY_BE } from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { sayTime } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { AskNumber, Form, useDraft } from '../fields/index.ts';
import { Panel } from '../parts/index.ts';
import { maybe } from '../shared/typed.ts';
import type { RackPage } from './queries.ts';

/** Test panels sprayed with the rack, and hanging up another one. */
export function RackPanels({ page }: { page: RackPage }) {
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`panel of ${page.rack.batch}`, { grams: '' });
  const { panels, rack, state, zone, nowMs } = page;
  const step = state.finish?.coats.findLast((one) => state.coats.some((coat) => coat.step === one.step));
  const spray = ({ grams }: { grams: string }): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/panels', {
            body: {
              key,
              by,
              batch: rack.batch,
              step: step?.step ?? '',
              ...maybe('grams', grams),
            },
          }),
        ),
      ({ code }) => `${code} hangs with ${rack.batch}. Weigh it tomorrow.`,
    );
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
        <Form draft={draft} refusal={refusal} lay="row" style={{ marginTop: 6 }} onFile={spray}>
          <AskNumber name="grams" label="First weight" unit="g" {...MAY_BE.panelG} optional />
          <Button type="submit" disabled={busy}>
            Hang a panel of {step.name}
          </Button>
        </Form>
      )}
    </Panel>
  );
}
