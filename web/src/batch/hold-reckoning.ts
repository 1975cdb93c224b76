import {
  limitsWords,
  operationOf,
  takenReadings,
  windowOf,
  type HoldOperation,
  type HoldRule,
} from '@ample-crane/core';
import type { BatchDetail, Hold } from '../api/queries.ts';
import type { Reckoned } from '../parts/index.ts';

type Put = Reckoned['put'];

/** How the rule of a hold comes to what it says; null: somebody called it, and nothing is reckoned. */
export function holdReckoning(hold: Hold, batch: BatchDetail, say: (ms: number) => string): Reckoned | null {
  const operation = operationOf(batch.route, hold.operation);
  if (operation.mode !== 'hold' || hold.rule === 'called') return null;
  const { put, formula, source } = ofRule(operation, hold, batch);
  const begun: Put = [
    ['on hold since', say(hold.sinceMs)],
    ['room', operation.room],
  ];
  return { put: [...begun, ...put], formula, source: `${source} Route: ${ruleOf(operation)}.` };
}

const ruleOf = ({ name, rule }: HoldOperation): string => `${name}, ${rule.word}`;

function ofRule(operation: HoldOperation, hold: Hold, batch: BatchDetail): Reckoned {
  const { rule, checks } = operation;
  switch (rule.rule) {
    case 'elapsed':
      return {
        put: [['hours wanted', `${rule.hours} h`]],
        formula:
          'It is over so many hours of the wall clock after its pieces came onto it; nights and weekends count.',
        source: 'The hours are the route’s.',
      };
    case 'moisture': {
      const { lowPct, highPct } = windowOf(rule);
      const taken = takenReadings(batch.state?.readings ?? [], { sinceMs: hold.sinceMs, atMs: batch.nowMs });
      return {
        put: [
          ['window', `${lowPct.toFixed(1)}–${highPct.toFixed(1)} %`],
          ['readings since then', String(taken.length)],
          ...taken
            .slice(-3)
            .map((one): Put[number] => [
              `last read${one.piece === null ? '' : `, /${String(one.piece).padStart(2, '0')}`}`,
              `${one.pct.toFixed(1)} % (shown ${one.shownPct.toFixed(1)})`,
            ]),
          ['time constant assumed', `${rule.tauDays} days`],
        ],
        formula:
          'Each piece goes by its own last reading, its core where that was read, corrected for temperature and by the meter’s line. All go when every piece read lies inside, and for those not read the one-sided tolerance bounds, 95 % sure of 95 of 100, do. The date plays 400 futures of the room’s air and takes when the wettest piece comes inside.',
        source:
          'Drying: dM/dt = −k · (M − EMC), twice as fast for every 10 °C; EMC by Hailwood and Horrobin, Wood Handbook, chapter 4.',
      };
    }
    case 'cure':
      return {
        put: [
          ['gathered', `${hold.curedHours?.toFixed(0) ?? '–'} reference hours`],
          ['needed', `${hold.neededHours?.toFixed(0) ?? rule.referenceHours.toFixed(0)} reference hours`],
          ['until it may be', rule.until],
          ['faster', `${rule.q} times for every 10 °C`],
        ],
        formula: `An hour counts as ${rule.q}^((T − 21) / 10) reference hours in air of T °C, and up to half less between 65 and 85 % humidity; booth and rooms it stood in are added up from their logged air. What is needed is the recipe’s, for the film there is: a slab of solvent lacquer more with its depth, two parts as they are, oil with its film.`,
        source:
          'Clock: warmth by the rule of ten degrees; solvent left in a slab by Crank’s diffusion. Hours and film: the recipe the rack goes by; a weighed test panel beats it.',
      };
    case 'settle':
      if (rule.drifts) return secondLook(rule, rule.drifts, checks);
      return {
        put: [
          ['hours wanted', `${rule.hours} h under tension`],
          ['drift allowed', `${rule.driftLimitMm.toFixed(2)} mm`],
          ...(rule.actionMm
            ? [
                [
                  'action wanted',
                  `${rule.actionMm.low.toFixed(2)}–${rule.actionMm.high.toFixed(2)} mm`,
                ] as const,
              ]
            : []),
        ],
        formula:
          'It is over when the hours have passed and the action, measured again, differs from what it was before by no more than the limit, piece by piece where pieces were told apart, and lies where it is wanted.',
        source: 'Hours and limits are the route’s.',
      };
    case 'ageing':
      return {
        put: [
          ['a turn', `${rule.coldHours} h cold, ${rule.warmHours} h warm`],
          ['at most', `${rule.cycles} turns`],
          ['level', rule.level],
        ],
        formula:
          'Turns are counted by what was logged; somebody looks after each and says when it is enough.',
        source: 'Turns and level are the route’s.',
      };
  }
}

/** A shelf whose second look is a sheet: each check with how far it may have moved. */
function secondLook(
  { hours }: Extract<HoldRule, { rule: 'settle' }>,
  drifts: Readonly<Record<string, number>>,
  checks: HoldOperation['checks'] = [],
): Reckoned {
  return {
    put: [
      ['hours wanted', `${hours} h under tension`],
      ...checks.map(({ key, name, unit, ...limits }) => {
        const drift = drifts[key];
        const moves = drift === undefined ? '' : `, may move ${drift.toFixed(2)} ${unit}`;
        return [name.toLowerCase(), `${limitsWords({ ...limits, unit })}${moves}`] as const;
      }),
    ],
    formula:
      'Each instrument by itself: when the hours have passed it is looked at again; what was read then differs from what was read before it came here by no more than it may move, and lies inside its limits.',
    source: 'Hours and limits are the route’s.',
  };
}
