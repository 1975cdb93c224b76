import { Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { PageHead } from './PageHead.tsx';

/** The skeleton of every page: its title with the pages beside it, and below what it is about. */
export function Page(props: { title: ReactNode; tabs?: ReactNode; children: ReactNode }) {
  return (
    <>
      <PageHead>
        <Typography variant="h1">{props.title}</Typography>
        {props.tabs}
      </PageHead>
      {props.children}
    </>
  );
}
