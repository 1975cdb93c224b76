import { Box } from '@mui/material';
import type { CSSProperties, ReactNode } from 'react';

/** What is too wide for a narrow page is scrolled where it is, also by keyboard. */
export function Sideways({ style, children }: { style?: CSSProperties; children: ReactNode }) {
  return (
    <Box tabIndex={0} style={{ overflowX: 'auto', ...style }}>
      {children}
    </Box>
  );
}
