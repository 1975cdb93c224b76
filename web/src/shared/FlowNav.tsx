import { SubNav } from './SubNav.tsx';

const PAGES = [
  { to: '/flow', name: 'Pieces out', end: true },
  { to: '/flow/time', name: 'Where the time goes' },
  { to: '/flow/constraint', name: 'The constraint' },
  { to: '/flow/work', name: 'What work takes' },
  { to: '/flow/hours', name: 'When we work' },
  { to: '/flow/roster', name: 'Roster' },
  { to: '/flow/people', name: 'People & skills' },
  { to: '/flow/log', name: 'Is the log whole?' },
  { to: '/hand-offs', name: 'Hand-offs' },
  { to: '/flow/reports', name: 'Sheets & calendar' },
];

/** The pages of what goes through the house. */
export const FlowNav = () => <SubNav label="Flow" pages={PAGES} />;
