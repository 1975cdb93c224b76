import type { INestApplicationContext } from '@nestjs/common';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { LotsService } from '../wood/lots.service.ts';

/** After a new version that may keep more in a state than the last one did: made anew from the log, which has it all. */
export async function remakeStates(
  app: INestApplicationContext,
  tell: (words: string) => void,
): Promise<void> {
  const racks = await app.get(ReplayCheckService).remake((done, of) => {
    if (done === of || done % 50 === 0) tell(`${done} of ${of} batches looked at`);
  });
  const lots = await app.get(LotsService).remake();
  tell(`${racks.remade.length + lots.remade.length} states made anew from the log`);
  for (const { code, why } of [...racks.hopeless, ...lots.hopeless])
    tell(`${code} cannot be replayed: ${why}; see replay-check`);
}
