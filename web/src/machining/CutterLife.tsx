import type { LoadPlan } from '@ample-crane/core';
import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { sayDate } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Refused } from '../devices/Refused.tsx';
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
  const { perform, busy, refused } = usePerform();
  const [reason, setReason] = useState<string | null>(null);
  const { tool, usedMinutes, lifeMinutes, costPerPiece, changedMs } = cutter;
  const before = plan.loads.find((load) => load.change.includes(tool));
  const past = usedMinutes >= lifeMinutes;
  const cost = costPerPiece
    ? `${costPerPiece.low.toFixed(2)}${costPerPiece.high - costPerPiece.low >= 0.01 ? `–${costPerPiece.high.toFixed(2)}` : ''} a piece`
    : 'in no program';
  const change = async (): Promise<void> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/mill/{station}/cutter-changes', {
            params: { path: { station: mill.station } },
            body: { key, by, tool, reason: (reason ?? '').trim() },
          }),
        ),
      () => `${tool} changed at ${mill.stationName}`,
    );
    if (done) setReason(null);
  };
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
        {reason === null && <Button onClick={() => setReason(past ? 'at its life' : '')}>Changed it</Button>}
      </Row>
      {before && (
        <Typography className="attention">
          Change before the load of {before.parts.map((part) => part.batch).join(', ')}: it would pass its
          life.
        </Typography>
      )}
      {reason !== null && (
        <Row style={{ marginTop: 6 }}>
          <TextField
            label="Why"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            sx={{ width: 180 }}
          />
          <Button variant="contained" disabled={busy || reason.trim() === ''} onClick={() => void change()}>
            Log the change
          </Button>
          <Button onClick={() => setReason(null)}>Not yet</Button>
        </Row>
      )}
      <Refused words={refused} />
    </Box>
  );
}
