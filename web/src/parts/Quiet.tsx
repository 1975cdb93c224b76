import { Typography } from '@mui/material';
import type { CSSProperties, ReactNode } from 'react';

/** Words that stand back: within a line, as a line of their own, or small beside a heading. */
export function Quiet(props: {
  block?: boolean;
  small?: boolean;
  className?: string;
  style?: CSSProperties;
  children?: ReactNode;
}) {
  const { block, small, ...rest } = props;
  return (
    <Typography
      component={block ? 'div' : 'span'}
      variant={small ? 'body1' : 'inherit'}
      color="textSecondary"
      {...rest}
    />
  );
}
