import { SubNav } from '../shared/SubNav.tsx';

const PAGES = [
  { to: '/stage/assembly', name: 'Benches', end: true },
  { to: '/kits', name: 'Kits', end: true },
  { to: '/kits/parts', name: 'Store' },
  { to: '/kits/bills', name: 'Bills' },
  { to: '/assembly/shipping', name: 'Shipping' },
  { to: '/assembly/serials', name: 'Serials' },
  { to: '/stage/assembly/racks', name: 'Racks' },
];

/** The pages of assembly. */
export const AssemblyNav = () => <SubNav label="Assembly" pages={PAGES} />;
