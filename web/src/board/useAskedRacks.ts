import { isLike } from '@ample-crane/core';
import { useRackList, type RackLine } from '../api/queries.ts';
import { rackQuestion } from '../fields/RackFilters.tsx';
import type { InAddress } from '../shared/useInAddress.ts';
import type { StageOf } from './marks.ts';

/** The open racks that are asked for in the address; undefined while they are not there. `all`: how many are open. */
export function useAskedRacks(
  address: InAddress,
  stageOf: StageOf,
): { asked: RackLine[] | undefined; all: number; error: Error | null } {
  const { data: lines, error } = useRackList();
  const stage = address.asked('stage');
  const question = rackQuestion(address);
  const asked = lines?.filter(
    (line) =>
      isLike(line, question) && (stage === '' || line.stations.some((station) => stageOf(station) === stage)),
  );
  return { asked, all: lines?.length ?? 0, error };
}
