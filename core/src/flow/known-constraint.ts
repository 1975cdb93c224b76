import { randomStream, type RandomStream } from '../stats/random.ts';
import { simulate, type FactoryModel, type SimStay, type SimStep } from '../simulate/index.ts';
import { constraintSigns, type Resource } from './constraint-signs.ts';
import { constraintVerdict, type ConstraintVerdict } from './constraint-verdict.ts';

/** Factories whose constraint is known: they are made so, and it is proved by adding capacity to each in turn. */
export const KNOWN_KINDS = ['steady', 'shifting', 'people', 'room'] as const;
export type KnownKind = (typeof KNOWN_KINDS)[number];

/** One such factory: what it is in each half of the window (the same, but for one that shifts). */
export interface KnownFactory {
  kind: KnownKind;
  seed: number;
  halves: [FactoryModel, FactoryModel];
}

const STATIONS = ['cut', 'fit', 'spray', 'buff', 'string'];
const WINDOW_DAYS = 20;
const [DAY_HOURS, SHIFT_HOURS] = [24, 8];
/** Racks that go round: as soon as one leaves another begins. */
const WIP = 14;
const HOUR_MS = 3_600_000;

/** A line of five stations that keeps so many racks, one of them with more work than it has hours for the others' pace. */
export function knownFactory(kind: KnownKind, seed: number): KnownFactory {
  const random = randomStream(7919 * seed + KNOWN_KINDS.indexOf(kind));
  const usual = STATIONS.map(() => 0.45 + 0.3 * random.next());
  const at = random.between(0, STATIONS.length - 1);
  const other = (at + random.between(1, STATIONS.length - 1)) % STATIONS.length;
  const slow = (station: number): number[] => usual.map((each, i) => (i === station ? 1 : each));
  const line = (each: number[]): FactoryModel => lineOf(kind, each, { at, random });
  switch (kind) {
    case 'steady': {
      const model = line(slow(at));
      return { kind, seed, halves: [model, model] };
    }
    case 'shifting':
      return { kind, seed, halves: [line(slow(at)), line(slow(other))] };
    case 'people':
    case 'room': {
      const model = line(usual);
      return { kind, seed, halves: [model, model] };
    }
  }
}

function lineOf(
  kind: KnownKind,
  each: readonly number[],
  { at, random }: { at: number; random: RandomStream },
): FactoryModel {
  const [first = ''] = STATIONS;
  const steps = STATIONS.flatMap((station, i): SimStep[] => {
    const isScarce = kind === 'people' && i === at;
    const work: SimStep = {
      ...{ mode: 'work', key: station, stations: [station] },
      // Where people are scarce there is a second place, and nobody for it.
      hours: { each: isScarce ? 1 : (each[i] ?? 1), cv: 0.35 },
      ...(kind === 'people' ? { skill: isScarce ? 'scarce' : 'common' } : {}),
      ...(i === STATIONS.length - 1 ? { rework: { share: 1, to: first } } : {}),
    };
    if (kind !== 'room' || i !== 2) return [work];
    return [work, { mode: 'work', key: 'cure', stations: ['cure room'], hours: { each: 20, cv: 0.1 } }];
  });
  // Six places turn over 7.2 racks a day: less than any station does in its eight hours.
  const room = { code: 'cure room', servers: random.between(5, 7), neverCloses: true };
  return {
    stations: [
      ...STATIONS.map((code, i) => ({ code, servers: kind === 'people' && i === at ? 2 : 1 })),
      ...(kind === 'room' ? [room] : []),
    ],
    routes: [{ code: 'line', steps }],
    arrivals: [],
    ...(kind === 'people'
      ? {
          people: [
            { code: 'a', skills: ['scarce'] },
            ...Array.from({ length: 6 }, (_, i) => ({ code: `b${i}`, skills: ['common'] })),
          ],
        }
      : {}),
  };
}

const openDays = (days: number) =>
  Array.from({ length: days }, (_, day) => ({ from: day * DAY_HOURS, to: day * DAY_HOURS + SHIFT_HOURS }));
const racks = Array.from({ length: WIP }, () => ({ route: 'line', step: STATIONS[0] ?? '', pieces: 1 }));

/** Resources by name: 'station spray', 'skill scarce'. */
const namesOf = ({ stations, people = [] }: FactoryModel): string[] => [
  ...stations.map(({ code }) => `station ${code}`),
  ...new Set(people.flatMap(({ skills }) => skills.map((skill) => `skill ${skill}`))),
];

/** With one more place, or one more who can. */
function withOneMore(model: FactoryModel, name: string): FactoryModel {
  const [by, code] = [name.slice(0, name.indexOf(' ')), name.slice(name.indexOf(' ') + 1)];
  return by === 'station'
    ? {
        ...model,
        stations: model.stations.map((one) =>
          one.code === code ? { ...one, servers: one.servers + 1 } : one,
        ),
      }
    : { ...model, people: [...(model.people ?? []), { code: 'one more', skills: [code] }] };
}

/** Racks a day that get through, over a long run. */
function rateOf(model: FactoryModel, seed: number): number {
  const days = 120;
  const { stations } = simulate({
    model: { ...model, open: openDays(days + 1) },
    state: racks,
    ...{ until: days * DAY_HOURS, from: 10 * DAY_HOURS, seed },
  });
  const last = stations.find(({ code }) => code === STATIONS.at(-1));
  return (last?.started ?? 0) / (days - 10);
}

/** What one more of each would bring, racks a day, over both halves; greatest first. With common chance, so that only that differs. */
export function provedConstraint({ halves, seed }: KnownFactory): { name: string; gain: number }[] {
  const [model] = halves;
  const rates = halves.map((half) => rateOf(half, seed));
  return namesOf(model)
    .map((name) => ({
      name,
      gain: halves.reduce(
        (sum, half, i) => sum + (rateOf(withOneMore(half, name), seed) - (rates[i] ?? 0)) / 2,
        0,
      ),
    }))
    .toSorted((a, b) => b.gain - a.gain);
}

/** What four weeks of its log say. */
export function verdictOnLog({ halves, seed }: KnownFactory): ConstraintVerdict {
  const [model] = halves;
  const halfDays = WINDOW_DAYS / 2;
  const stays = halves.flatMap((half, i) => {
    const told: (SimStay & { offset: number })[] = [];
    simulate({
      model: { ...half, open: openDays(halfDays + 1) },
      ...{ state: racks, until: halfDays * DAY_HOURS, seed: 31 * seed + i },
      onStay: (stay) => told.push({ ...stay, offset: i * halfDays * SHIFT_HOURS }),
    });
    return told;
  });
  return constraintVerdict(
    constraintSigns({
      resources: namesOf(model).map((name) => resourceOf(model, name, stays)),
      windowMs: WINDOW_DAYS * SHIFT_HOURS * HOUR_MS,
      days: WINDOW_DAYS,
    }),
  );
}

/** Hours worked up to a moment of the run. */
const worked = (hours: number): number => {
  const day = Math.floor(hours / DAY_HOURS);
  return day * SHIFT_HOURS + Math.min(SHIFT_HOURS, hours - day * DAY_HOURS);
};

function resourceOf(
  model: FactoryModel,
  name: string,
  stays: readonly (SimStay & { offset: number })[],
): Resource {
  const [by, code] = [name.slice(0, name.indexOf(' ')), name.slice(name.indexOf(' ') + 1)];
  const { stations, people = [] } = model;
  const [line] = model.routes;
  const station = stations.findIndex((one) => one.code === code);
  const own = stays.filter((stay) => {
    const step = line?.steps[stay.step];
    return by === 'station' ? stay.station === station : step?.mode === 'work' && step.skill === code;
  });
  const neverCloses = by === 'station' && (stations[station]?.neverCloses ?? false);
  const capacity =
    by === 'station'
      ? (stations[station]?.servers ?? 0)
      : people.filter(({ skills }) => skills.includes(code)).length;
  const onAxis = (hours: number, offset: number): number => (worked(hours) + offset) * HOUR_MS;
  const hoursOf = ({ from, to }: SimStay): number => (neverCloses ? to - from : worked(to) - worked(from));
  const inHand = own.filter(({ status }) => status === 'inHand');
  const mean = inHand.reduce((sum, stay) => sum + hoursOf(stay), 0) / Math.max(1, inHand.length);
  return {
    ...{ code, by: by === 'station' ? 'station' : 'skill', capacity },
    hoursThere: capacity * WINDOW_DAYS * (neverCloses ? DAY_HOURS : SHIFT_HOURS),
    hoursOffered: inHand.reduce((sum, stay) => sum + hoursOf(stay), 0),
    busy: inHand.map(({ from, to, offset }) => ({ fromMs: onAxis(from, offset), toMs: onAxis(to, offset) })),
    waiting: own
      .filter(({ status }) => status === 'waiting')
      .map(({ from, to, offset }) => ({
        ...{ fromMs: onAxis(from, offset), toMs: onAxis(to, offset), hours: mean },
      })),
  };
}

/** Whether a verdict names what is proved: where a second brings nearly as much, either. 'unsure': it names none. */
export function heldAgainstProof(
  { code, by }: ConstraintVerdict,
  proved: readonly { name: string; gain: number }[],
): 'right' | 'unsure' | 'wrong' {
  if (code === null) return 'unsure';
  const most = proved[0]?.gain ?? 0;
  const named = proved.find(({ name }) => name === `${by} ${code}`);
  return named && named.gain >= NEARLY * most ? 'right' : 'wrong';
}
const NEARLY = 0.7;
