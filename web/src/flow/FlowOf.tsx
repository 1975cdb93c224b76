import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Opening, Page } from '../parts/index.ts';
import { FlowNav } from '../shared/FlowNav.tsx';

/** A page of the flow: what was asked of the log, once it is there. */
export function FlowOf<Data>({
  asked: { data, error },
  children,
}: {
  asked: UseQueryResult<Data>;
  children: (data: Data) => ReactNode;
}) {
  return (
    <Page title="Flow" tabs={<FlowNav />}>
      {data === undefined ? <Opening error={error} words="Reading the log…" /> : children(data)}
    </Page>
  );
}
