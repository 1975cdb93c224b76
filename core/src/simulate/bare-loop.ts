import { spansOf } from './chance.ts';

/**
 * A single queue by a loop written for it alone, beside which the kernel is measured: the next coming or the next going, one server, who
 * waits in a ring; no heap, no model, the same chance, and the same that is told of it.
 * @returns events, the mean wait in hours, how many were there on average, and when each left
 */
export function bareQueue(options: {
  arrivalsPerHour: number;
  meanHours: number;
  until: number;
  seed: number;
}): { events: number; meanWaitHours: number; meanInSystem: number; left: { from: number; to: number }[] } {
  const { arrivalsPerHour, meanHours, until, seed } = options;
  const [coming, serving] = [spansOf(seed, 0), spansOf(seed, 1)];
  const left: { from: number; to: number }[] = [];
  const ring = new Float64Array(1 << 16);
  const mask = ring.length - 1;
  let [head, tail] = [0, 0];
  let [events, begun, waited, area, since] = [0, 0, 0, 0, 0];
  let nextComing = coming.span(1 / arrivalsPerHour, 1);
  let nextGoing = Infinity;
  const serve = (now: number): void => {
    begun += 1;
    waited += now - (ring[head & mask] ?? now);
    nextGoing = now + serving.span(meanHours, 1);
  };
  for (;;) {
    const now = Math.min(nextComing, nextGoing);
    if (now > until) break;
    events += 1;
    area += (tail - head) * (now - since);
    since = now;
    if (nextComing <= nextGoing) {
      ring[tail & mask] = now;
      tail += 1;
      nextComing = now + coming.span(1 / arrivalsPerHour, 1);
      if (tail - head === 1) serve(now);
    } else {
      left.push({ from: ring[head & mask] ?? now, to: now });
      head += 1;
      nextGoing = Infinity;
      if (tail > head) serve(now);
    }
  }
  return {
    events,
    meanWaitHours: begun > 0 ? waited / begun : 0,
    meanInSystem: (area + (tail - head) * (until - since)) / until,
    left,
  };
}
