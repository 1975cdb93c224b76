import { Button, LinearProgress, Stack } from '@mui/material';

/** How many of several are through, and the way to stop before the next. */
export function Running({ through, of, onStop }: { through: number; of: number; onStop: () => void }) {
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: '8px', marginTop: '6px' }}>
      <LinearProgress
        variant="determinate"
        aria-label={`${through} of ${of} filed`}
        value={(100 * through) / of}
        sx={{ flex: 1 }}
      />
      <span role="status">
        {through} of {of}
      </span>
      <Button onClick={onStop}>Stop</Button>
    </Stack>
  );
}
