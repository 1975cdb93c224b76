import { LinearProgress, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { PageHead } from './PageHead.tsx';
import { Problem } from './Problem.tsx';

/** A page whose data are not there: on their way, or why they do not come and what to do about it. */
export function Opening(props: { error?: Error | null; words?: string; instead?: ReactNode }) {
  const { error, words = 'Opening…', instead } = props;
  if (error) return <Problem error={error} instead={instead} />;
  return (
    <>
      <LinearProgress aria-label={words} sx={{ height: 2 }} />
      <PageHead>
        <Typography color="textSecondary">{words}</Typography>
      </PageHead>
    </>
  );
}
