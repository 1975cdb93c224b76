import { List } from '@mui/material';
import type { ReactNode } from 'react';

/** A list without marks. */
export function PlainList(props: { ordered?: boolean; className?: string; children: ReactNode }) {
  return (
    <List
      component={props.ordered ? 'ol' : 'ul'}
      disablePadding
      className={props.className}
      sx={{ mt: '8px', '& > li': { display: 'block', padding: '4px 0' } }}
    >
      {props.children}
    </List>
  );
}
