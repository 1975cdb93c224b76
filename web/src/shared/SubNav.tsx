import { NavLink } from 'react-router';

/** The pages of one stage or subject, beside its heading. */
export function SubNav({ label, pages }: { label: string; pages: readonly { to: string; name: string }[] }) {
  return (
    <nav aria-label={label} className="subnav">
      {pages.map(({ to, name }) => (
        <NavLink key={to} to={to}>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
