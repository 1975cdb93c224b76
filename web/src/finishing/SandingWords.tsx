import type { SandingAhead } from '@ample-crane/core';
import { Typography } from '@mui/material';
import { shareWords } from './words.ts';

/** What a sanding would leave, in a sentence: warns with numbers, refuses nothing. */
export function SandingWords({ sanding, pieces }: { sanding: SandingAhead; pieces: number }) {
  const thin = sanding.thinShare * pieces;
  return (
    <Typography className={sanding.thinShare >= 0.01 ? 'attention' : undefined}>
      {sanding.name} ({sanding.grits.join(' → ')}) takes about {sanding.removalUm} µm and leaves{' '}
      {sanding.leftUm.toFixed(0)} ± {(1.645 * sanding.sdUm).toFixed(0)} µm, minimum {sanding.minimumUm} µm:
      below it {shareWords(sanding.thinShare)}
      {thin >= 0.1 && ` of pieces, about ${thin.toFixed(1)} of ${pieces}`}; through to the wood{' '}
      {shareWords(sanding.throughShare)}.
    </Typography>
  );
}
