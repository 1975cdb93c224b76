import type { Stage } from '@ample-crane/core';

/** Pages that belong to a stage besides its own, by the first part of their address. */
const STAGE_PAGES: Record<string, Stage> = {
  wood: 'wood',
  mill: 'machining',
  routes: 'machining',
  fitting: 'fitting',
  finish: 'finishing',
};

/** The stage a page belongs to: '/stage/wood', '/mill/body-mill' …; undefined for pages of the whole works. */
export function stageOf(pathname: string): Stage | undefined {
  const [, first = '', second = ''] = pathname.split('/');
  return first === 'stage'
    ? (Object.keys(STAGE_NAMES) as Stage[]).find((stage) => stage === second)
    : STAGE_PAGES[first];
}

export const STAGE_NAMES: Record<Stage, string> = {
  wood: 'Wood room',
  machining: 'Machining',
  fitting: 'Fitting',
  finishing: 'Finishing',
  assembly: 'Assembly',
};
