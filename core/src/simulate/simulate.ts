import { spansOf, type Spans } from './chance.ts';
import { compiled, type Compiled } from './compiled.ts';
import { EventHeap } from './event-heap.ts';
import type { FactoryModel, SimRack, SimResult, SimStay } from './factory-model.ts';
import { ALWAYS_OPEN, openHours } from './open-hours.ts';

/** What an event is: with the number of a source, a server or a rack. */
const [ARRIVES, ENDS, RESTED, WAKES] = [0, 1, 2, 3];
const NONE = -1;
const NOBODY = -2;
const UNASKED = -1;

/** Racks as columns: a run makes and forgets hundreds of thousands. */
class Racks {
  route = new Int32Array(256);
  step = new Int32Array(256);
  pieces = new Int32Array(256);
  /** Next in the queue or the load it is in. */
  next = new Int32Array(256);
  born = new Float64Array(256);
  due = new Float64Array(256);
  came = new Float64Array(256);
  private count = 0;
  private free = NONE;

  make(route: number, step: number, pieces: number, born: number, due: number): number {
    let rack = this.free;
    if (rack === NONE) {
      rack = this.count;
      this.count += 1;
      if (this.count > this.route.length) this.grow();
    } else this.free = this.next[rack] as number;
    this.route[rack] = route;
    this.step[rack] = step;
    this.pieces[rack] = pieces;
    this.born[rack] = born;
    this.due[rack] = due;
    this.next[rack] = NONE;
    return rack;
  }

  drop(rack: number): void {
    this.next[rack] = this.free;
    this.free = rack;
  }

  private grow(): void {
    for (const key of ['route', 'step', 'pieces', 'next'] as const) {
      const wider = new Int32Array(2 * this[key].length);
      wider.set(this[key]);
      this[key] = wider;
    }
    for (const key of ['born', 'due', 'came'] as const) {
      const wider = new Float64Array(2 * this[key].length);
      wider.set(this[key]);
      this[key] = wider;
    }
  }
}

/**
 * Plays a factory: discrete events, those of one moment in the order in which they were brought about. The same model, state and seed
 * give the same run; each station, source and step draws from a stream of its own.
 * @param options.until hours to play; what is in hand then stays so
 * @param options.from hours after which stations and what leaves are counted: a run begins empty, or with `state`
 * @param options.onStay told of every stay that ends, in order
 * @throws RangeError for a model that does not hold together
 */
export function simulate(options: {
  model: FactoryModel;
  state?: readonly SimRack[];
  until: number;
  from?: number;
  seed: number;
  onStay?: (stay: SimStay) => void;
}): SimResult {
  return new Run(options).play();
}

class Run {
  private readonly model: Compiled;
  private readonly clock;
  private readonly heap = new EventHeap();
  private readonly racks = new Racks();
  private readonly chance: Spans[];
  private readonly until: number;
  private readonly from: number;
  private readonly onStay: ((stay: SimStay) => void) | undefined;
  private now = 0;
  private events = 0;
  private scrapped = 0;
  private left = 0;
  private readonly finished: SimResult['finished'] = [];
  // By station.
  private readonly head: Int32Array;
  private readonly tail: Int32Array;
  private readonly waiting: Int32Array;
  private readonly free: Int32Array;
  private readonly here: Int32Array;
  private readonly since: Float64Array;
  private readonly area: Float64Array;
  private readonly busy: Float64Array;
  private readonly waited: Float64Array;
  private readonly started: Int32Array;
  // By server.
  private readonly load: Int32Array;
  private readonly family: Int32Array;
  private readonly begun: Float64Array;
  private readonly person: Int32Array;
  // By person, and by join.
  private readonly isBusy: Uint8Array;
  /** By skill, while a station chooses: whether anybody who can is free. */
  private readonly somebodyNow: Int8Array;
  private readonly partners: { hosts: number[]; guests: number[] }[];

  constructor(options: Parameters<typeof simulate>[0]) {
    const { model, state = [], until, from = 0, seed, onStay } = options;
    if (!(until > 0 && from >= 0 && from < until))
      throw new RangeError(`simulate: cannot play from ${from} to ${until} h`);
    this.model = compiled(model);
    [this.until, this.from, this.onStay] = [until, from, onStay];
    this.clock = model.open ? openHours(model.open) : ALWAYS_OPEN;
    const { stations, servers, sources, steps, people, joins } = this.model;
    this.chance = Array.from({ length: sources.length + steps.length }, (_, i) => spansOf(seed, i));
    const n = stations.length;
    this.head = new Int32Array(n).fill(NONE);
    this.tail = new Int32Array(n).fill(NONE);
    this.waiting = new Int32Array(n);
    this.free = Int32Array.from(stations, (station) => station.servers);
    this.here = new Int32Array(n);
    this.since = new Float64Array(n);
    this.area = new Float64Array(n);
    this.busy = new Float64Array(n);
    this.waited = new Float64Array(n);
    this.started = new Int32Array(n);
    this.load = new Int32Array(servers.length).fill(NONE);
    this.family = new Int32Array(servers.length).fill(NONE);
    this.begun = new Float64Array(servers.length);
    this.person = new Int32Array(servers.length).fill(NONE);
    this.isBusy = new Uint8Array(people.length);
    this.somebodyNow = new Int8Array(this.model.able.length);
    this.partners = joins.map(() => ({ hosts: [], guests: [] }));
    for (const one of state) this.place(one);
    for (let source = 0; source < sources.length; source += 1) this.schedule(source);
    for (const { away } of people) for (const { to } of away) if (to < until) this.heap.push(to, WAKES);
  }

  play(): SimResult {
    const { heap } = this;
    for (let time = heap.nextTime; time <= this.until; time = heap.nextTime) {
      const what = heap.pop();
      this.now = time;
      this.events += 1;
      const number = what >> 2;
      switch (what & 3) {
        case ARRIVES:
          this.arrive(number);
          break;
        case ENDS:
          this.end(number);
          break;
        case RESTED:
          this.rested(number);
          break;
        default:
          for (let station = 0; station < this.free.length; station += 1) this.begin(station);
      }
    }
    this.now = this.until;
    return this.result();
  }

  private place({ route: code, step: key, pieces, due = 0, left }: SimRack): void {
    const route = this.model.routeOf(code);
    const first = this.model.first[route] as number;
    const step = this.model.stepOf(route, key);
    const rack = this.racks.make(route, step - first, pieces, 0, due);
    this.left += 1;
    this.come(rack, left);
  }

  private schedule(source: number): void {
    const { everyHours, cv } = this.model.sources[source] as Compiled['sources'][number];
    const at = this.now + (this.chance[source] as Spans).span(everyHours, cv);
    if (at <= this.until) this.heap.push(at, (source << 2) | ARRIVES);
  }

  private arrive(source: number): void {
    const { route, pieces, dueHours } = this.model.sources[source] as Compiled['sources'][number];
    const rack = this.racks.make(route, 0, pieces, this.now, this.now + dueHours);
    this.left += 1;
    this.schedule(source);
    this.come(rack);
  }

  /** A rack comes to the step it is at. */
  private come(rack: number, leftHours?: number): void {
    const { racks, model } = this;
    const route = racks.route[rack] as number;
    const at = (model.first[route] as number) + (racks.step[rack] as number);
    if (at === model.first[route + 1]) return this.leave(rack);
    const step = model.steps[at] as Compiled['steps'][number];
    racks.came[rack] = this.now;
    if (step.mode === 'hold') {
      const hours = leftHours ?? this.spansAt(at).span(step.each, step.cv);
      this.heap.push(this.now + hours, (rack << 2) | RESTED);
      return;
    }
    if (step.mode === 'join') return this.meet(rack, step.join, step.makes);
    const station = this.choose(step.stations);
    this.count(station, 1);
    racks.next[rack] = NONE;
    const tail = this.tail[station] as number;
    if (tail === NONE) this.head[station] = rack;
    else racks.next[tail] = rack;
    this.tail[station] = rack;
    this.waiting[station] = (this.waiting[station] as number) + 1;
    this.begin(station);
  }

  private spansAt(step: number): Spans {
    return this.chance[this.model.sources.length + step] as Spans;
  }

  /** The usual station, or of its alternatives the first that is free; where none is, the one with the fewest waiting. */
  private choose(stations: Int32Array): number {
    const usual = stations[0] as number;
    if (stations.length === 1 || ((this.free[usual] as number) > 0 && this.waiting[usual] === 0))
      return usual;
    let best = usual;
    for (const station of stations) {
      if ((this.free[station] as number) > 0 && this.waiting[station] === 0) return station;
      if ((this.waiting[station] as number) < (this.waiting[best] as number)) best = station;
    }
    return best;
  }

  /** What waits at a station is begun, as far as there are places and people. */
  private begin(station: number): void {
    while ((this.free[station] as number) > 0 && (this.waiting[station] as number) > 0) {
      const before = this.pick(station);
      if (before === NOBODY) return;
      const rack = this.takeOut(station, before);
      this.start(station, rack);
    }
  }

  /** Whom a station takes next: the rack before it in the queue, NONE for the first; −2: nobody is there for any of them. */
  private pick(station: number): number {
    const { racks, model, somebodyNow } = this;
    const { rule, skill: only } = model.stations[station] as Compiled['stations'][number];
    if (only !== NONE && this.somebody(only) === NONE) return NOBODY;
    if (rule === 'first come' && (only !== NONE || somebodyNow.length === 0)) return NONE;
    // Whether anybody is there is asked once for each skill.
    somebodyNow.fill(UNASKED);
    let best = NOBODY;
    let bestWorth = Infinity;
    let before = NONE;
    for (let rack = this.head[station] as number; rack !== NONE; rack = racks.next[rack] as number) {
      const step = this.workOf(rack);
      if (step.skill !== NONE && somebodyNow[step.skill] === UNASKED)
        somebodyNow[step.skill] = this.somebody(step.skill) === NONE ? 0 : 1;
      if (step.skill === NONE || somebodyNow[step.skill] === 1) {
        if (rule === 'first come') return before;
        const worth =
          rule === 'first due'
            ? (racks.due[rack] as number)
            : rule === 'shortest'
              ? step.each * (racks.pieces[rack] as number)
              : this.isSetUp(station, step.family)
                ? 0
                : 1;
        if (worth < bestWorth) {
          best = before;
          bestWorth = worth;
        }
      }
      before = rack;
    }
    return best;
  }

  private workOf(rack: number): Extract<Compiled['steps'][number], { mode: 'work' }> {
    const { racks, model } = this;
    const at = (model.first[racks.route[rack] as number] as number) + (racks.step[rack] as number);
    return model.steps[at] as Extract<Compiled['steps'][number], { mode: 'work' }>;
  }

  private isSetUp(station: number, family: number): boolean {
    const { firstServer, servers } = this.model.stations[station] as Compiled['stations'][number];
    for (let server = firstServer; server < firstServer + servers; server += 1)
      if (this.load[server] === NONE && this.family[server] === family) return true;
    return false;
  }

  private takeOut(station: number, before: number): number {
    const { next } = this.racks;
    const rack = before === NONE ? (this.head[station] as number) : (next[before] as number);
    const after = next[rack] as number;
    if (before === NONE) this.head[station] = after;
    else next[before] = after;
    if (after === NONE) this.tail[station] = before;
    next[rack] = NONE;
    this.waiting[station] = (this.waiting[station] as number) - 1;
    return rack;
  }

  /** Somebody who is free and can; of those who can the one who can do the least else. NONE: nobody. */
  private somebody(skill: number): number {
    const at = this.clock.opening(this.now);
    for (const person of this.model.able[skill] as Int32Array) {
      if (this.isBusy[person]) continue;
      const { away } = this.model.people[person] as Compiled['people'][number];
      if (!away.some(({ from, to }) => at >= from && at < to)) return person;
    }
    return NONE;
  }

  private start(station: number, rack: number): void {
    const { racks, model } = this;
    const { firstServer, servers, neverCloses } = model.stations[station] as Compiled['stations'][number];
    const step = this.workOf(rack);
    const at = (model.first[racks.route[rack] as number] as number) + (racks.step[rack] as number);
    let server = NONE;
    for (let one = firstServer; one < firstServer + servers; one += 1) {
      if (this.load[one] !== NONE) continue;
      if (server === NONE) server = one;
      if (this.family[one] === step.family) {
        server = one;
        break;
      }
    }
    this.free[station] = (this.free[station] as number) - 1;
    if (step.skill !== NONE) {
      const person = this.somebody(step.skill);
      this.person[server] = person;
      this.isBusy[person] = 1;
    }
    const setUp = this.family[server] === step.family ? 0 : step.setUp;
    this.family[server] = step.family;
    this.load[server] = rack;
    let pieces = racks.pieces[rack] as number;
    if (step.places > 0) pieces = this.fill(station, rack, step);
    const chance = this.spansAt(at);
    const times = step.places > 0 ? Math.ceil(pieces / step.places) : pieces;
    // So many gamma spans one after the other are one gamma span.
    const hours = setUp + chance.span(step.each * times, step.cv / Math.sqrt(times));
    const begun = neverCloses ? this.now : this.clock.opening(this.now);
    this.begun[server] = begun;
    const end = neverCloses ? begun + hours : this.clock.add(begun, hours);
    for (let one = rack; one !== NONE; one = racks.next[one] as number) this.begunAt(station, one, begun);
    this.heap.push(end, (server << 2) | ENDS);
  }

  /** Fills a load with what else waits there and needs the same set-up, in its order. @returns pieces in it */
  private fill(
    station: number,
    rack: number,
    { family, places }: { family: number; places: number },
  ): number {
    const { racks } = this;
    let pieces = racks.pieces[rack] as number;
    let last = rack;
    let before = NONE;
    for (let one = this.head[station] as number; one !== NONE && pieces < places;) {
      const after = racks.next[one] as number;
      if (this.workOf(one).family === family && pieces + (racks.pieces[one] as number) <= places) {
        this.takeOut(station, before);
        pieces += racks.pieces[one] as number;
        racks.next[last] = one;
        last = one;
      } else before = one;
      one = after;
    }
    return pieces;
  }

  private begunAt(station: number, rack: number, begun: number): void {
    const came = this.racks.came[rack] as number;
    if (begun >= this.from) {
      this.started[station] = (this.started[station] as number) + 1;
      this.waited[station] = (this.waited[station] as number) + begun - came;
    }
    if (this.onStay && begun > came) this.tell(rack, station, NONE, 'waiting', came, begun);
    this.racks.came[rack] = begun;
  }

  private end(server: number): void {
    const { racks, model } = this;
    const station = model.servers[server] as number;
    const { neverCloses } = model.stations[station] as Compiled['stations'][number];
    const person = this.person[server] as number;
    const begun = Math.max(this.begun[server] as number, this.from);
    if (this.now > begun)
      this.busy[station] =
        (this.busy[station] as number) +
        (neverCloses ? this.now - begun : this.clock.worked(this.now) - this.clock.worked(begun));
    let rack = this.load[server] as number;
    this.load[server] = NONE;
    this.free[station] = (this.free[station] as number) + 1;
    this.person[server] = NONE;
    if (person !== NONE) this.isBusy[person] = 0;
    while (rack !== NONE) {
      const after = racks.next[rack] as number;
      racks.next[rack] = NONE;
      this.count(station, -1);
      if (this.onStay) this.tell(rack, station, person, 'inHand', racks.came[rack] as number, this.now);
      this.done(rack);
      rack = after;
    }
    this.begin(station);
    // Whoever is free now may be wanted elsewhere.
    if (person !== NONE)
      for (const other of (model.people[person] as Compiled['people'][number]).stations)
        if (other !== station) this.begin(other);
  }

  /** What was worked on goes on, goes back, or is scrapped: piece by piece. */
  private done(rack: number): void {
    const { racks } = this;
    const step = this.workOf(rack);
    if (step.scrap > 0 || step.rework > 0) {
      const route = racks.route[rack] as number;
      const chance = this.spansAt((this.model.first[route] as number) + (racks.step[rack] as number));
      let back = 0;
      let lost = 0;
      const pieces = racks.pieces[rack] as number;
      for (let piece = 0; piece < pieces; piece += 1) {
        const drawn = chance.next();
        if (drawn < step.scrap) lost += 1;
        else if (drawn < step.scrap + step.rework) back += 1;
      }
      this.scrapped += lost;
      if (lost === pieces) {
        this.left -= 1;
        racks.drop(rack);
        return;
      }
      if (back > 0 && back + lost < pieces) {
        const again = racks.make(
          route,
          step.reworkTo,
          back,
          racks.born[rack] as number,
          racks.due[rack] as number,
        );
        this.left += 1;
        this.come(again);
      }
      racks.pieces[rack] = back + lost < pieces ? pieces - back - lost : back;
      if (back > 0 && back + lost === pieces) {
        racks.step[rack] = step.reworkTo;
        return this.come(rack);
      }
    }
    racks.step[rack] = (racks.step[rack] as number) + 1;
    this.come(rack);
  }

  private rested(rack: number): void {
    if (this.onStay) this.tell(rack, NONE, NONE, 'onHold', this.racks.came[rack] as number, this.now);
    this.racks.step[rack] = (this.racks.step[rack] as number) + 1;
    this.come(rack);
  }

  private meet(rack: number, join: number, makes: number): void {
    const { hosts, guests } = this.partners[join] as Run['partners'][number];
    const isHost = makes !== NONE;
    const other = (isHost ? guests : hosts).shift();
    if (other === undefined) {
      (isHost ? hosts : guests).push(rack);
      return;
    }
    const [host, guest] = isHost ? [rack, other] : [other, rack];
    const made = isHost ? makes : (this.model.steps[this.stepIndex(host)] as { makes: number }).makes;
    if (this.onStay)
      for (const one of [host, guest]) {
        const came = this.racks.came[one] as number;
        if (this.now > came) this.tell(one, NONE, NONE, 'partner', came, this.now);
      }
    this.racks.born[host] = Math.min(this.racks.born[host] as number, this.racks.born[guest] as number);
    this.racks.drop(guest);
    this.left -= 1;
    this.racks.route[host] = made;
    this.racks.step[host] = 0;
    this.come(host);
  }

  private stepIndex(rack: number): number {
    return (this.model.first[this.racks.route[rack] as number] as number) + (this.racks.step[rack] as number);
  }

  private leave(rack: number): void {
    const { racks } = this;
    this.left -= 1;
    if (this.now >= this.from)
      this.finished.push({
        rack,
        route: this.model.routes[racks.route[rack] as number] as string,
        pieces: racks.pieces[rack] as number,
        from: racks.born[rack] as number,
        to: this.now,
      });
    racks.drop(rack);
  }

  private count(station: number, more: number): void {
    this.settle(station);
    this.here[station] = (this.here[station] as number) + more;
  }

  /** Adds what was there since it was last counted. */
  private settle(station: number): void {
    const since = Math.max(this.since[station] as number, this.from);
    if (this.now > since)
      this.area[station] =
        (this.area[station] as number) + (this.here[station] as number) * (this.now - since);
    this.since[station] = this.now;
  }

  private tell(
    rack: number,
    station: number,
    person: number,
    status: SimStay['status'],
    from: number,
    to: number,
  ): void {
    const { route, step, pieces } = this.racks;
    this.onStay?.({
      rack,
      station,
      person,
      status,
      from,
      to,
      pieces: pieces[rack] as number,
      route: route[rack] as number,
      step: step[rack] as number,
    });
  }

  private result(): SimResult {
    const { stations } = this.model;
    const wall = this.until - this.from;
    return {
      stations: stations.map(({ code, servers, neverCloses, firstServer }, station) => {
        this.settle(station);
        let busy = this.busy[station] as number;
        const hoursOf = (from: number): number =>
          neverCloses ? this.until - from : this.clock.worked(this.until) - this.clock.worked(from);
        for (let server = firstServer; server < firstServer + servers; server += 1) {
          const begun = Math.max(this.begun[server] as number, this.from);
          if (this.load[server] !== NONE && begun < this.until) busy += hoursOf(begun);
        }
        const started = this.started[station] as number;
        const there = servers * hoursOf(this.from);
        return {
          ...{ code, started, meanWaitHours: started > 0 ? (this.waited[station] as number) / started : 0 },
          meanInSystem: (this.area[station] as number) / wall,
          utilisation: there > 0 ? busy / there : 0,
        };
      }),
      ...{ finished: this.finished, scrapped: this.scrapped, left: this.left, events: this.events },
    };
  }
}
