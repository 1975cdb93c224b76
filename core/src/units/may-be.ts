/** What a number may be that people type: asked so by the forms, checked so by the server. Both ends count. */
export interface MayBe {
  least: number;
  most: number;
}

/** Numbers people type, by what they are; units in the name. */
export const MAY_BE = {
  /** On a scale for test panels. */
  panelG: { least: 0.1, most: 100_000 },
  /** On a scale for oven-dry samples. */
  sampleG: { least: 0.01, most: 100_000 },
  /** A drum, a can, a mix. */
  litres: { least: 0.01, most: 2000 },
  /** Of a set-up, of loading a table, of a cutter in a cycle. */
  minutes: { least: 0, most: 10_000 },
  cycleMinutes: { least: 0.1, most: 10_000 },
  /** Of a room. */
  airC: { least: -40, most: 80 },
  airRhPct: { least: 0, most: 100 },
  /** Of a band of equilibrium moisture a room should hold, of a window wood passes in. */
  bandPct: { least: 0, most: 30 },
  /** Of the air wood goes to, by which a gate lets it through. */
  gateC: { least: 0, most: 50 },
  gateRhPct: { least: 5, most: 90 },
  gateTolerancePct: { least: 0.1, most: 5 },
  /** What a meter shows. */
  readingPct: { least: 0, most: 100 },
  /** Of wood that is read. */
  woodC: { least: -20, most: 60 },
  /** A board as it comes in. */
  boardLengthMm: { least: 1, most: 10_000 },
  boardWidthMm: { least: 1, most: 2000 },
  boardThicknessMm: { least: 1, most: 300 },
  boardKg: { least: 0.01, most: 500 },
  /** A blank, a finished piece. */
  blankKg: { least: 0.01, most: 100 },
  /** How long an instrument should take, from its first board to its case. */
  leadDays: { least: 1, most: 730 },
} satisfies Record<string, MayBe>;
