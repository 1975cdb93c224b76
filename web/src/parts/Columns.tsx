import { Box } from '@mui/material';
import type { CSSProperties, ReactNode } from 'react';

/** What a page is about, and beside it what helps with that; or two of a kind, side by side. Below each other where it is narrow. */
export function Columns(props: { even?: boolean; style?: CSSProperties; children: ReactNode }) {
  const one = 'minmax(0, 1fr)';
  return (
    <Box
      style={props.style}
      sx={{
        display: 'grid',
        gridTemplateColumns: props.even ? `${one} ${one}` : `${one} 400px`,
        gap: '14px',
        padding: '14px 16px',
        alignItems: 'start',
        '@media (max-width: 1180px)': { gridTemplateColumns: props.even ? undefined : `${one} 330px` },
        [`@media (max-width: ${props.even ? 1100 : 900}px)`]: { gridTemplateColumns: one },
      }}
    >
      {props.children}
    </Box>
  );
}
