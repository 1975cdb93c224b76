import { Box, Button, Typography } from '@mui/material';
import { useDeferredValue, useMemo } from 'react';
import { daysAhead, sayTime, useFactoryNow } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening, PageHead, Quiet } from '../parts/index.ts';
import { AXIS_DAYS, share } from './axis.ts';
import { FinishNav } from './FinishNav.tsx';
import { GROUP_NAMES, GROUPS, listVerdict, readyLines, type Group, type Line } from './ready.ts';
import { ReadyRow } from './ReadyRow.tsx';
import { useFinishList } from './queries.ts';
import './ReadyListPage.css';

const LEAST_SCALE_UM = 120;
const DRAWN_AT_ONCE = 24;

/** Every rack in finish with its ladder: what may be done with it, and when. */
export default function ReadyListPage() {
  const { data, dataUpdatedAt, error } = useFinishList();
  const nowMs = useFactoryNow(data, dataUpdatedAt);
  const lines = useMemo(() => readyLines(data?.racks ?? []), [data]);
  if (!data) return <Opening error={error} />;
  const { zone } = data;
  const ready = lines.some(({ group }) => group === 'now');
  return (
    <Box className="readylist">
      <PageHead>
        <Typography variant="h1">Ready list</Typography>
        <FinishNav />
        <Button className="noprint" onClick={() => globalThis.print()}>
          Print for the booth
        </Button>
      </PageHead>
      <Box style={{ padding: '0 16px 4px' }}>
        <Verdict
          tone={ready ? 'good' : 'hold'}
          sentence={
            lines.length === 0
              ? 'No rack is in finish. Racks come here from fitting; no hold to end.'
              : listVerdict(lines, (ms) => sayTime(ms, zone, nowMs))
          }
        />
      </Box>
      {lines.length > 0 && <Head nowMs={nowMs} zone={zone} />}
      <Groups lines={lines} zone={zone} nowMs={data.nowMs} />
    </Box>
  );
}

/** The groups one under the other: what fits the screen is drawn at once, the rest of a long list right after. */
function Groups({ lines, zone, nowMs }: { lines: readonly Line[]; zone: string; nowMs: number }) {
  const shown = useDeferredValue(lines, lines.slice(0, DRAWN_AT_ONCE));
  const scaleUm = Math.max(LEAST_SCALE_UM, ...lines.map(({ view }) => view.buildUm)) * 1.05;
  const piecesIn = (group: Group): number =>
    lines.reduce((sum, { view, ...line }) => sum + (line.group === group ? view.positions.length : 0), 0);
  return (
    <>
      {GROUPS.map((group) => {
        const own = shown.filter((line) => line.group === group);
        return (
          own.length > 0 && (
            <Box component="section" key={group} aria-label={GROUP_NAMES[group]}>
              <Typography variant="h2">
                {GROUP_NAMES[group]} <Quiet small>{piecesIn(group)} pieces</Quiet>
              </Typography>
              {own.map((line) => (
                <ReadyRow
                  key={`${line.rack.batch}${line.view.operation}${line.view.standing}${line.view.positions[0] ?? 0}`}
                  line={line}
                  scaleUm={scaleUm}
                  zone={zone}
                  nowMs={nowMs}
                />
              ))}
            </Box>
          )
        );
      })}
    </>
  );
}

function Head({ nowMs, zone }: { nowMs: number; zone: string }) {
  return (
    <Box className="readyhead" aria-hidden="true">
      <span>rack</span>
      <span>coats, to scale, and how far each has cured</span>
      <span className="days">
        <span style={{ left: 0 }}>now</span>
        {daysAhead(nowMs, zone, AXIS_DAYS - 1)
          .filter(({ ms }) => share(ms, nowMs) > 6)
          .map(({ ms, name }) => (
            <span key={ms} style={{ left: `${share(ms, nowMs)}%` }}>
              {name}
            </span>
          ))}
      </span>
      <span />
    </Box>
  );
}
