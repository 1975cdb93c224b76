import { SubNav } from '../shared/SubNav.tsx';

const PAGES = [
  { to: '/orders', name: 'Orders', end: true },
  { to: '/orders/new', name: 'New order' },
  { to: '/orders/racks', name: 'Racks to open' },
  { to: '/orders/options', name: 'Options' },
];

/** The pages of the order book. */
export const OrdersNav = () => <SubNav label="Order book" pages={PAGES} />;
