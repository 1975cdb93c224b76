import { Box, Typography } from '@mui/material';
import type { Roster } from '../flow/queries.ts';
import { Quiet } from '../parts/index.ts';

/** Narrower than this share of the strip a name would not be read. */
const NAMED_FROM = 0.12;
/** Less would be told as 0.0. */
const LEAST_TOLD_HOURS = 0.05;

/** Work at one station as long as it is, with those who are there for it laid on it; what is hatched has nobody. */
export function GangStrip({
  task,
  widest,
  paces,
}: {
  task: Roster['work'][number];
  /** Hours of the longest strip beside it. */
  widest: number;
  paces: boolean;
}) {
  const { stationName, skill, wantedHours, comingHours, leftHours, people } = task;
  const share = (hours: number): string => `${(100 * hours) / widest}%`;
  return (
    <Box sx={{ padding: '6px 0', borderTop: '1px solid var(--fibre)' }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, flexWrap: 'wrap' }}>
        <Typography component="h3" sx={{ fontWeight: 600 }}>
          {stationName} <Quiet>{skill ?? 'anybody'}</Quiet>
          {paces && <Quiet>, paces the house</Quiet>}
        </Typography>
        <Typography>
          {wantedHours.toFixed(1)} h
          {comingHours >= LEAST_TOLD_HOURS && <Quiet>, {comingHours.toFixed(1)} of it still on a hold</Quiet>}
          {leftHours > 0 && <Quiet>, {leftHours.toFixed(1)} stay for later</Quiet>}
        </Typography>
      </Box>
      <Box aria-hidden sx={{ display: 'flex', height: 22, mt: '3px' }}>
        {people.map(({ code, name, hours, isLent }) => (
          <Box
            key={code}
            sx={{
              ...{ overflow: 'hidden', whiteSpace: 'nowrap', fontSize: 12, lineHeight: '20px', px: '5px' },
              ...{
                borderRight: '2px solid var(--paper)',
                color: 'var(--onDark)',
                background: 'var(--ebony)',
              },
              ...(isLent
                ? { background: 'var(--maple)', color: 'var(--ebony)', border: '1px dashed var(--shellac)' }
                : {}),
            }}
            style={{ width: share(hours) }}
          >
            {hours / widest >= NAMED_FROM ? name : ''}
          </Box>
        ))}
        <Box
          sx={{
            border: leftHours > 0 ? '1px solid var(--hatch)' : undefined,
            background: 'repeating-linear-gradient(135deg, var(--hatch) 0 2px, transparent 2px 7px)',
          }}
          style={{ width: share(leftHours) }}
        />
      </Box>
      <Quiet block small>
        {people.length === 0
          ? 'nobody'
          : people
              .map(({ name, hours, isLent }) => `${name} ${hours.toFixed(1)} h${isLent ? ', lent' : ''}`)
              .join(' · ')}
      </Quiet>
    </Box>
  );
}
