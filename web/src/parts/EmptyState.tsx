import { Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { PageHead } from './PageHead.tsx';

/** A page that has nothing to show, and why; with a way on where there is one. */
export function EmptyState({ children }: { children: ReactNode }) {
  return (
    <PageHead>
      <Typography>{children}</Typography>
    </PageHead>
  );
}
