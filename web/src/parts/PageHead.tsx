import { Stack } from '@mui/material';
import type { ReactNode } from 'react';

/** The first line of a page: a title, and what stands beside it. */
export function PageHead({ children }: { children: ReactNode }) {
  return (
    <Stack
      direction="row"
      sx={{ flexWrap: 'wrap', alignItems: 'baseline', gap: '12px', padding: '14px 16px 0' }}
    >
      {children}
    </Stack>
  );
}
