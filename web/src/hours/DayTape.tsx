import { Box } from '@mui/material';
import type { TapeSpan } from './weeks.ts';

const LOOKS: Record<TapeSpan['kind'], object> = {
  shift: { background: 'var(--ebony)' },
  house: { background: 'var(--shellac)' },
  // Not the whole house: half as high, as a sign of its own beside the colour.
  stations: { background: 'var(--shellac)', top: '50%' },
};

/** A day from midnight to midnight: what is worked lies on it. A night shift runs off its end. */
export function DayTape({ tape, isClosed }: { tape: readonly TapeSpan[]; isClosed: boolean }) {
  const percent = (share: number): string => `${100 * Math.min(1, share)}%`;
  return (
    <Box
      component="span"
      aria-hidden
      sx={{
        ...{ display: 'block', position: 'relative', height: 10, overflow: 'hidden' },
        border: '1px solid var(--fibre)',
        background: isClosed
          ? 'repeating-linear-gradient(135deg, var(--hatch) 0 2px, transparent 2px 6px)'
          : 'var(--bone)',
      }}
    >
      {tape.map(({ from, to, kind }) => (
        <Box
          key={`${kind} ${from} ${to}`}
          component="span"
          sx={{ position: 'absolute', top: 0, bottom: 0, ...LOOKS[kind] }}
          style={{ left: percent(from), width: percent(Math.min(1, to) - from) }}
        />
      ))}
    </Box>
  );
}
