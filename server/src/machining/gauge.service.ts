import { refuse, type Check, type Refusal } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { askOutside } from './ask-outside.ts';

const ANSWER_WITHIN_MS = 2000;
const LARGEST_ANSWER = 10_000;

/** The gauge at the bench: asked over HTTP for one value at a time. GAUGE_URL says where it is. */
@Injectable()
export class GaugeService {
  async read(check: Check): Promise<{ value: number } | Refusal> {
    const address = process.env.GAUGE_URL;
    if (!address) return refuse('nothing-here', 'no gauge is connected: type the value');
    const within = Math.max(
      (check.upper ?? check.nominal) - check.nominal,
      check.nominal - (check.lower ?? check.nominal),
    );
    const query = new URLSearchParams({ nominal: String(check.nominal), within: String(within) });
    try {
      const answer = await askOutside(`${address}/gauge?${query.toString()}`, {
        withinMs: ANSWER_WITHIN_MS,
        largest: LARGEST_ANSWER,
      });
      const told = JSON.parse(answer) as { value?: unknown };
      if (typeof told.value === 'number' && Number.isFinite(told.value)) return { value: told.value };
      return refuse('bad-value', 'the gauge sent no number: look at it, or type the value');
    } catch {
      return refuse('nothing-here', 'the gauge does not answer: type the value');
    }
  }
}
