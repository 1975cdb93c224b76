import { Button } from '@mui/material';
import { answered, server } from '../api/client.ts';
import { Refused } from '../parts/index.ts';
import type { Choice } from './queries.ts';
import { useWoodFiling } from './useWoodFiling.ts';

/** Takes the blanks that were chosen for a rack: each for the piece it was chosen for. */
export function TakeThem({ choice }: { choice: Choice }) {
  const { perform, busy, refused } = useWoodFiling();
  const { batch, chosen, units } = choice;
  const taken = chosen.chosen.flatMap(({ blank, piece }) =>
    (units.find(({ id }) => id === blank)?.blanks ?? []).map((id) => ({ id, piece })),
  );
  if (taken.length === 0) return null;
  const blanks = taken.map(({ id }) => id);
  const pieces = taken.map(({ piece }) => piece);
  const take = (): Promise<unknown> =>
    perform(
      (by, key) => answered(server.POST('/api/stock/take', { body: { key, by, batch, blanks, pieces } })),
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
