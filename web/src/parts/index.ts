/** What every page is made of. */
export { Columns } from './Columns.tsx';
export { EmptyState } from './EmptyState.tsx';
export { Fold } from './Fold.tsx';
export { ModelTabs } from './ModelTabs.tsx';
export { Opening } from './Opening.tsx';
export { Page } from './Page.tsx';
export { PageHead } from './PageHead.tsx';
export { Panel } from './Panel.tsx';
export { PlainList } from './PlainList.tsx';
export { Problem } from './Problem.tsx';
export { Quiet } from './Quiet.tsx';
export { Reckoning, type Reckoned } from './Reckoning.tsx';
export { Refused } from './Refused.tsx';
export { Revising } from './Revising.tsx';
export { Row } from './Row.tsx';
export { Running } from './Running.tsx';
export { Sideways } from './Sideways.tsx';
export { useRun, type Lines } from './useRun.ts';
