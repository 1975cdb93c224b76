import { SubNav } from '../shared/SubNav.tsx';

/** The pages of finishing. */
export const FinishNav = () => (
  <SubNav
    label="Finishing"
    pages={[
      { to: '/stage/finishing', name: 'Ready list' },
      { to: '/finish/booths', name: 'Booths' },
      { to: '/finish/sanding', name: 'Sanding' },
      { to: '/finish/panels', name: 'Panels' },
      { to: '/finish/recipes', name: 'Recipes' },
      { to: '/finish/materials', name: 'Materials' },
      { to: '/finish/ageing', name: 'Ageing' },
      { to: '/stage/finishing/racks', name: 'All racks' },
    ]}
  />
);
