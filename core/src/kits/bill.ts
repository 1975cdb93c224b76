import type { Choices } from '../options/index.ts';

/** An option has one of these values. */
export interface Given {
  option: string;
  values: string[];
}

/** What may stand in for a part. */
export interface Substitute {
  part: string;
  /** Only for specs like this; absent: for any. */
  when?: Given[];
}

/** One part of a kit: what it is for, and when it is in. */
export interface BillLine {
  /** What it is for: 'tuners'. Several lines for one thing are told apart by the spec. */
  slot: string;
  /** Code of the part. */
  part: string;
  quantity: number;
  /** In kits of such specs; absent: in every kit. */
  when?: Given[];
  /** In order of preference. */
  instead?: Substitute[];
}

/** The parts of a model, at one revision. */
export interface Bill {
  model: string;
  revision: number;
  lines: BillLine[];
}

/** A part that one instrument's kit wants. */
export interface BilledPart {
  slot: string;
  part: string;
  quantity: number;
  /** What may stand in for it here, in order of preference. */
  instead: string[];
}

const isGiven = (when: readonly Given[] | undefined, choices: Choices): boolean =>
  (when ?? []).every(({ option, values }) => values.includes(choices[option] ?? ''));

/** What was worked out of a bill for some choices, as long as both are asked about. */
const known = new WeakMap<readonly BillLine[], WeakMap<Choices, readonly BilledPart[]>>();

/** What the kit of one instrument wants, by what it is to be. Asked of the same bill and choices, it is worked out once. */
export function billed({ lines }: Pick<Bill, 'lines'>, choices: Choices): readonly BilledPart[] {
  const ofBill = known.get(lines) ?? new WeakMap<Choices, readonly BilledPart[]>();
  known.set(lines, ofBill);
  const parts = ofBill.get(choices) ?? worked(lines, choices);
  ofBill.set(choices, parts);
  return parts;
}

const worked = (lines: readonly BillLine[], choices: Choices): BilledPart[] =>
  lines
    .filter(({ when }) => isGiven(when, choices))
    .map(({ slot, part, quantity, instead = [] }) => ({
      ...{ slot, part, quantity },
      instead: instead.filter(({ when }) => isGiven(when, choices)).map((other) => other.part),
    }));

/** Options that a bill asks about: a spec that changes in no other leaves the kit as it is. */
export const optionsOfBill = ({ lines }: Pick<Bill, 'lines'>): string[] => [
  ...new Set(
    lines.flatMap(({ when = [], instead = [] }) =>
      [...when, ...instead.flatMap((other) => other.when ?? [])].map(({ option }) => option),
    ),
  ),
];
