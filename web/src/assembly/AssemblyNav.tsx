import { SubNav } from '../shared/SubNav.tsx';

const PAGES = [
  { to: '/stage/assembly', name: 'Benches', end: true },
  { to: '/assembly/shipping', name: 'Shipping' },
  { to: '/assembly/serials', name: 'Serials' },
  { to: '/stage/assembly/racks', name: 'Racks' },
];

/** The pages of assembly. */
export const AssemblyNav = () => <SubNav label="Assembly" pages={PAGES} />;
