import { SubNav } from '../shared/SubNav.tsx';

const PAGES = [
  { to: '/stage/wood', name: 'Lots & racks' },
  { to: '/wood/rooms', name: 'Rooms' },
  { to: '/wood/stock', name: 'Stock' },
  { to: '/wood/receive', name: 'Receive' },
  { to: '/wood/yield', name: 'Cutting plan' },
  { to: '/wood/meters', name: 'Meters' },
];

/** The pages of the wood room. */
export const WoodNav = () => <SubNav label="Wood room" pages={PAGES} />;
