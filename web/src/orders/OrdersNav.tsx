import { SubNav } from '../shared/SubNav.tsx';

const PAGES = [
  { to: '/orders', name: 'Orders', end: true },
  { to: '/orders/new', name: 'New order' },
  { to: '/orders/release', name: 'Racks to release' },
  { to: '/orders/options', name: 'Options' },
];

/** The pages of the order book. */
export const OrdersNav = () => <SubNav label="Order book" pages={PAGES} />;
