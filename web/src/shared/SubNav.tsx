import { NavLink } from 'react-router';
import './SubNav.css';

/** The pages of one stage or subject, beside its heading. */
export function SubNav({
  label,
  pages,
}: {
  label: string;
  pages: readonly { to: string; name: string; end?: boolean }[];
}) {
  return (
    <nav aria-label={label} className="subnav">
      {pages.map(({ to, name, end }) => (
        <NavLink key={to} to={to} end={end}>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
