import { SubNav } from '../shared/SubNav.tsx';

const PAGES = [
  { to: '/stage/fitting', name: 'Presses & clamps' },
  { to: '/fitting/meeting', name: 'Meeting' },
  { to: '/fitting/pairing', name: 'Pairing' },
  { to: '/stage/fitting/racks', name: 'Racks' },
];

/** The pages of fitting. */
export const FittingNav = () => <SubNav label="Fitting" pages={PAGES} />;
