import { SubNav } from '../shared/SubNav.tsx';
import { useMills } from './queries.ts';

/** The pages of machining: one for each mill, the charts, the programs. */
export function MillNav() {
  const { data: mills = [] } = useMills();
  const pages = [
    ...mills.map(({ code, name }) => ({ to: `/mill/${code}`, name })),
    { to: '/mill/checks', name: 'Checks & charts' },
    { to: '/mill/programs', name: 'Programs & cutters' },
    { to: '/routes', name: 'Routes' },
    { to: '/stage/machining/racks', name: 'Racks' },
  ];
  return <SubNav label="Machining" pages={pages} />;
}
