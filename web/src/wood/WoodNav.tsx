import { NavLink } from 'react-router';

const PAGES: readonly { to: string; name: string }[] = [
  { to: '/stage/wood', name: 'Lots & racks' },
  { to: '/wood/rooms', name: 'Rooms' },
  { to: '/wood/stock', name: 'Stock' },
  { to: '/wood/receive', name: 'Receive' },
  { to: '/wood/yield', name: 'Cutting plan' },
  { to: '/wood/meters', name: 'Meters' },
];

/** The pages of the wood room. */
export function WoodNav() {
  return (
    <nav aria-label="Wood room" className="subnav">
      {PAGES.map(({ to, name }) => (
        <NavLink key={to} to={to}>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
