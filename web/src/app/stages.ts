import type { Stage } from '@ample-crane/core';

export const STAGE_NAMES: Record<Stage, string> = {
  wood: 'Wood room',
  machining: 'Machining',
  fitting: 'Fitting',
  finishing: 'Finishing',
  assembly: 'Assembly',
};
