/** Events in order of their time, those of one time in the order in which they were added. A binary heap on typed arrays. */
export class EventHeap {
  private times: Float64Array;
  private orders: Float64Array;
  private whats: Int32Array;
  private size = 0;
  private added = 0;

  constructor(capacity = 256) {
    this.times = new Float64Array(capacity);
    this.orders = new Float64Array(capacity);
    this.whats = new Int32Array(capacity);
  }

  get length(): number {
    return this.size;
  }

  /** When the next event is; Infinity: there is none. */
  get nextTime(): number {
    return this.size > 0 ? (this.times[0] ?? Infinity) : Infinity;
  }

  /** Adds an event. @param what a number that says what happens: the caller's own. */
  push(time: number, what: number): void {
    if (this.size === this.times.length) this.grow();
    const order = (this.added += 1);
    const { times, orders, whats } = this;
    let at = this.size;
    this.size += 1;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      // What was added later never comes before what has the same time.
      if ((times[parent] as number) <= time) break;
      times[at] = times[parent] as number;
      orders[at] = orders[parent] as number;
      whats[at] = whats[parent] as number;
      at = parent;
    }
    times[at] = time;
    orders[at] = order;
    whats[at] = what;
  }

  /** Takes the next event out. @returns what was given with it; −1: there is none */
  pop(): number {
    if (this.size === 0) return -1;
    const { times, orders, whats } = this;
    const first = whats[0] as number;
    const last = (this.size -= 1);
    const [time, order, what] = [times[last] as number, orders[last] as number, whats[last] as number];
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= last) break;
      const right = child + 1;
      if (right < last && this.isBefore(right, times[child] as number, orders[child] as number))
        child = right;
      if (!this.isBefore(child, time, order)) break;
      times[at] = times[child] as number;
      orders[at] = orders[child] as number;
      whats[at] = whats[child] as number;
      at = child;
    }
    times[at] = time;
    orders[at] = order;
    whats[at] = what;
    return first;
  }

  private isBefore(at: number, time: number, order: number): boolean {
    const own = this.times[at] as number;
    return own < time || (own === time && (this.orders[at] as number) < order);
  }

  private grow(): void {
    const wider = <T extends Float64Array | Int32Array>(old: T, made: T): T => {
      made.set(old);
      return made;
    };
    this.times = wider(this.times, new Float64Array(2 * this.times.length));
    this.orders = wider(this.orders, new Float64Array(2 * this.orders.length));
    this.whats = wider(this.whats, new Int32Array(2 * this.whats.length));
  }
}
