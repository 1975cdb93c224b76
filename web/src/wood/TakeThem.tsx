import { Button } from '@mui/material';
import { answered, server } from '../api/client.ts';
import { Refused } from '../parts/index.ts';
import type { Choice } from './queries.ts';
import { useWoodFiling } from './useWoodFiling.ts';

/** Takes the blanks that were chosen for a rack: each becomes one of its pieces, in their order. */
export function TakeThem({ choice }: { choice: Choice }) {
  const { perform, busy, refused } = useWoodFiling();
  const { batch, chosen, units } = choice;
  const blanks = chosen.chosen.flatMap(({ blank }) => units.find(({ id }) => id === blank)?.blanks ?? []);
  if (blanks.length === 0) return null;
  const take = (): Promise<unknown> =>
    perform(
      (by, key) => answered(server.POST('/api/stock/take', { body: { key, by, batch, blanks } })),
      ({ sentence }) => `Taken. ${sentence}`,
    );
  return (
    <>
      <Button variant="contained" disabled={busy} onClick={() => void take()} sx={{ mt: 1 }}>
        Take these {chosen.chosen.length} for {batch}
      </Button>
      <Refused words={refused} />
    </>
  );
}
