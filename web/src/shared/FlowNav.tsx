import { SubNav } from './SubNav.tsx';

const PAGES = [
  { to: '/flow', name: 'Throughput', end: true },
  { to: '/hand-offs', name: 'Hand-offs' },
];

/** The pages of what goes through the house. */
export const FlowNav = () => <SubNav label="Flow" pages={PAGES} />;
