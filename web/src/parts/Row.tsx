import { Stack } from '@mui/material';
import type { CSSProperties, ReactNode } from 'react';

/** Things side by side, which go on to a next line where there is no room. */
export function Row(props: {
  component?: 'span';
  role?: string;
  'aria-label'?: string;
  className?: string;
  style?: CSSProperties;
  children: ReactNode;
}) {
  return (
    <Stack direction="row" data-row sx={{ flexWrap: 'wrap', gap: '8px', alignItems: 'center' }} {...props} />
  );
}
