import { RUN_RULES, type FactoryCalendar, type MoistureGate, type RunRule } from '@ample-crane/core';
import type { Schemas } from '../api/client.ts';

export type Change = Schemas['ChangeDto'];
type Value = Record<string, unknown>;

const oneDecimal = (value: unknown): string => Number(value).toFixed(1);

const gateWords = (gate: MoistureGate): string =>
  gate.school === 'fixed'
    ? `a window we trust, ${oneDecimal(gate.lowPct)}–${oneDecimal(gate.highPct)} %`
    : `the EMC of ${oneDecimal(gate.air.temperatureC)} °C and ${gate.air.relativeHumidityPct.toFixed(0)} % RH ± ${oneDecimal(gate.tolerancePct)} %`;

const rulesWords = (rules: readonly RunRule[]): string =>
  rules.length === 0 ? 'none' : rules.map((rule) => RUN_RULES[rule].name).join('; ');

const listed = (list: unknown): number => (Array.isArray(list) ? list.length : 0);

/** How a setting stands, in words. */
const VALUES: Record<Change['setting'], (value: Value) => string> = {
  'wood gate': (gate) => gateWords(gate as MoistureGate),
  room: ({ lowPct, highPct }) => `EMC ${oneDecimal(lowPct)}–${oneDecimal(highPct)} %`,
  'run rules': ({ rules }) => rulesWords(rules as RunRule[]),
  species: ({ basicSpecificGravity, radialShrinkagePct, tangentialShrinkagePct, papersNeeded }) =>
    `specific gravity ${String(basicSpecificGravity)}, shrinks ${String(radialShrinkagePct)} % radially and ` +
    `${String(tangentialShrinkagePct)} % tangentially, ${papersNeeded === true ? 'papers needed' : 'no papers'}`,
  machine: ({ name, station, url }) => `${String(name)} at ${String(station)}, asked at ${String(url)}`,
  station: ({ name }) => `${String(name)} in use`,
  'weigh-back': ({ blankKg, finishedKg }) =>
    `counted: ${Number(blankKg).toFixed(2)} kg as a blank, ${Number(finishedKg).toFixed(2)} kg finished`,
  serials: ({ pattern }) => String(pattern),
  options: ({ options, rules }) =>
    `${listed(options)} options, ${listed(rules)} rules about what goes together`,
  bill: ({ lines }) => `${listed(lines)} lines of parts`,
  skills: ({ skills, learning, teaches }) => skilledWords({ skills, learning, teaches }),
  training: ({ days }) => `${String(days)} working days to learn`,
  absence: ({ days }) => (listed(days) === 0 ? 'here' : `away on ${(days as string[]).join(', ')}`),
  calendar: (part) => calendarWords(part),
  'lead time': ({ days }) => (days === null ? 'none is wanted' : `${Number(days)} days are wanted`),
};

/** What somebody can do. */
function skilledWords(lists: Record<'skills' | 'learning' | 'teaches', unknown>): string {
  const told = (list: unknown, before: string): string[] =>
    listed(list) === 0 ? [] : [`${before}${(list as string[]).join(', ')}`];
  const words = [
    ...told(lists.skills, ''),
    ...told(lists.learning, 'learning '),
    ...told(lists.teaches, 'can teach '),
  ];
  return words.length > 0 ? words.join('; ') : 'nothing';
}

/** A part of the calendar. */
function calendarWords({ shifts = [], closedDays = [], overtime = [] }: Partial<FactoryCalendar>): string {
  const words = [
    ...shifts.map(
      ({ name, start, end, fromDay, untilDay }) =>
        `shift ${name} ${start}–${end}${fromDay === undefined ? '' : ` from ${fromDay}`}${untilDay === undefined ? '' : ` until ${untilDay}`}`,
    ),
    ...(closedDays.length > 0 ? [`closed ${closedDays.join(', ')}`] : []),
    ...overtime.map(
      ({ date, start, end, stations }) =>
        `${date} ${start}–${end}${stations ? ` at ${stations.join(', ')}` : ''}`,
    ),
  ];
  return words.length > 0 ? words.join('; ') : 'none';
}

const TITLES: Record<Change['setting'], (name: string) => string> = {
  'wood gate': () => 'How dry lumber must be',
  room: (name) => `Air of ${name}`,
  'run rules': () => 'Run rules of the charts',
  species: (name) => `Species ${name}`,
  machine: (name) => `Machine ${name}`,
  station: (name) => `Station ${name}`,
  'weigh-back': (name) => `Weight of ${name}`,
  serials: () => 'How serials are made',
  options: (name) => `Options of ${name}`,
  bill: (name) => `Parts of a ${name}`,
  skills: (name) => `What ${name} can do`,
  calendar: (name) => `Calendar: ${name}`,
  'lead time': () => 'How long an instrument should take',
  training: (name) => `Time to learn ${name}`,
  absence: (name) => `When ${name} is away`,
};

/** What was changed. */
export const changeTitle = ({ setting, name }: Change): string => TITLES[setting](name);

/** How it stood; null: it was not there. */
export const beforeWords = ({ setting, before }: Change): string | null =>
  before === null ? null : VALUES[setting](before);

/** How it stands since; null: it is gone. */
export const afterWords = ({ setting, after }: Change): string | null =>
  after === null ? null : VALUES[setting](after);
