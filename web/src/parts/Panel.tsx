import { Paper, Stack } from '@mui/material';
import type { CSSProperties, ReactNode } from 'react';

/** A sheet of paper on a page, named for who hears it. On a phone what is wider scrolls within it. */
export function Panel(props: {
  label?: string;
  /** What is in it with a gap between. */
  stack?: boolean;
  className?: string;
  style?: CSSProperties;
  children: ReactNode;
}) {
  return (
    <Paper
      component="section"
      variant="outlined"
      aria-label={props.label}
      className={props.className}
      style={props.style}
      sx={{
        padding: '14px 16px',
        '& > h2:not(:last-child)': { marginBottom: '6px' },
        '@media (max-width: 600px)': { overflowX: 'auto' },
      }}
    >
      {props.stack ? <Stack>{props.children}</Stack> : props.children}
    </Paper>
  );
}
