import type { LoadPlan } from '@ample-crane/core';
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { sayDate } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { AskWords, Form, Leave, useDraft } from '../fields/index.ts';
import { Panel, Quiet, Row } from '../parts/index.ts';
import type { Cutter, Mill } from './queries.ts';
import './CutterLife.css';

/** The cutters of a mill: life used, the load that would pass it, and changing one. */
export function CutterLife({ mill, plan }: { mill: Mill; plan: LoadPlan }) {
  if (mill.cutters.length === 0) return null;
  return (
    <Panel label="Cutters">
      <Typography variant="h2">
        Cutters <Quiet small>cut minutes since the last change</Quiet>
      </Typography>
      {mill.cutters.map((cutter) => (
        <CutterLine key={cutter.tool} cutter={cutter} mill={mill} plan={plan} />
      ))}
    </Panel>
  );
}

function CutterLine({ cutter, mill, plan }: { cutter: Cutter; mill: Mill; plan: LoadPlan }) {
  const [changing, setChanging] = useState(false);
  const { tool, usedMinutes, lifeMinutes, costPerPiece, changedMs } = cutter;
  const before = plan.loads.find((load) => load.change.includes(tool));
  const past = usedMinutes >= lifeMinutes;
  const cost = costPerPiece
    ? `${costPerPiece.low.toFixed(2)}${costPerPiece.high - costPerPiece.low >= 0.01 ? `–${costPerPiece.high.toFixed(2)}` : ''} a piece`
    : 'in no program';
  return (
    <Box className="cutter">
      <Row style={{ justifyContent: 'space-between' }}>
        <strong>{tool}</strong>
        <span style={{ color: past ? 'var(--oxblood)' : undefined }}>
          {usedMinutes.toFixed(0)} of {lifeMinutes.toFixed(0)} min
        </span>
      </Row>
      <svg viewBox="0 0 100 6" preserveAspectRatio="none" width="100%" height="8" aria-hidden="true">
        <rect x="0" y="1" width="100" height="4" fill="var(--fibre)" />
        <rect
          x="0"
          y="1"
          width={Math.min(100, (100 * usedMinutes) / lifeMinutes)}
          height="4"
          fill={past ? 'var(--oxblood)' : 'var(--ebony)'}
        />
      </svg>
      <Row style={{ justifyContent: 'space-between' }}>
        <Quiet>
          {cost}
          {changedMs !== null && ` · changed ${sayDate(changedMs, mill.zone)}`}
        </Quiet>
        {!changing && <Button onClick={() => setChanging(true)}>Changed it</Button>}
      </Row>
      {before && (
        <Typography className="attention">
          Change before the load of {before.parts.map((part) => part.batch).join(', ')}: it would pass its
          life.
        </Typography>
      )}
      {changing && (
        <ChangeForm
          tool={tool}
          mill={mill}
          usual={past ? 'at its life' : ''}
          onDone={() => setChanging(false)}
        />
      )}
    </Box>
  );
}

function ChangeForm(props: { tool: string; mill: Mill; usual: string; onDone: () => void }) {
  const { tool, mill, usual, onDone } = props;
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`change of ${tool} at ${mill.station}`, { reason: usual });
  const change = async ({ reason }: { reason: string }): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/mill/{station}/cutter-changes', {
            params: { path: { station: mill.station } },
            body: { key, by, tool, reason: reason.trim() },
          }),
        ),
      () => `${tool} changed at ${mill.stationName}`,
    );
    if (done) onDone();
    return done !== null;
  };
  return (
    <Form draft={draft} refusal={refusal} lay="row" style={{ marginTop: 6 }} onFile={change}>
      <AskWords name="reason" label="Why" needed="dull, chipped, at its life" width={180} />
      <Button type="submit" variant="contained" disabled={busy}>
        Log the change
      </Button>
      <Leave draft={draft} onLeft={onDone} words="Not yet" />
    </Form>
  );
}
