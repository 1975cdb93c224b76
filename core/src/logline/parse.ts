import type { AskedEntry } from '../entries/index.ts';
import type { Choice, LineWords, SaidVerb, Selection } from '../ledger/index.ts';
import { inUnit, METRIC, signedNumber, signIn, type MetricUnit } from '../units/chosen.ts';
import { clockOf, type Moment } from './moment.ts';
import { tokensOf, Trouble, type NotUnderstood, type Token } from './tokens.ts';
import {
  looksLikeBatch,
  matchBatch,
  matchPerson,
  matchPlace,
  matchWholePlace,
  nearestTo,
  placesOf,
  type BatchMatch,
  type Place,
  type Vocabulary,
} from './vocabulary.ts';
import {
  DEFECTS,
  endsReason,
  FILLERS,
  PIECES,
  PLACE_WORDS,
  VERB_WORDS,
  verbOf,
  VERBS,
  type Verb,
} from './words.ts';

export { LONGEST_LINE, type NotUnderstood } from './tokens.ts';
export { VERBS } from './words.ts';

/** An entry as it was typed. Joins, splits and corrections name what they need; the server completes them. */
export type LineAction = AskedEntry;

export interface Understood {
  /** Null only for a bare 'undo', which means the last thing filed here. */
  batch: string | null;
  /** When the line says it happened; null: now. */
  moment: Moment | null;
  actions: LineAction[];
  /** Other batches of which the same is said; absent: none. */
  also?: Understood[];
}

export type Parsed = { understood: Understood } | { notUnderstood: NotUnderstood };

/**
 * What a typed or scanned line means: `B-217 body mill 6 done 1 scrap tear-out`. Words may come in any order where that leaves no
 * doubt. Pure; says what it understood, which word it did not and what is near it, or asks where a number could mean two things.
 */
export function parseLine(text: string, vocabulary: Vocabulary): Parsed {
  try {
    return { understood: new LineParser(text, tokensOf(text), vocabulary).parse() };
  } catch (trouble) {
    if (trouble instanceof Trouble) return { notUnderstood: trouble.at };
    throw trouble;
  }
}

const NUMBER = /^\d+([.,]\d+)?%?$/;
const decimal = (text: string): number =>
  NUMBER.test(text) ? Number(text.replace(',', '.').replace('%', '')) : NaN;
const isNumber = (text: string | undefined): boolean =>
  text !== undefined && (NUMBER.test(text) || signedNumber(text) !== null);
const NAMES: Readonly<Record<string, string>> = { in: 'inches', mil: 'mils' };
/** Signs of units that may stand behind their number as a word of their own. */
const SIGN_WORDS = new Set(['mm', 'um', 'µm', 'mil', 'mils', 'inch', 'inches', '"', '″', '°c', '°f']);
const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'];
const ordinalOf = (text: string): number | undefined => {
  const spelt = ORDINALS.indexOf(text.toLowerCase());
  const digits = /^(\d+)(st|nd|rd|th)$/i.exec(text);
  return spelt >= 0 ? spelt + 1 : digits ? Number(digits[1]) : undefined;
};
/** Words in the longest name of a place that are tried as one. */
const LONGEST_PLACE = 5;
class LineParser implements LineWords {
  private next = 0;
  private tokens: Token[];
  private place: Place | undefined;
  private moment: Moment | null = null;
  private readonly batches: BatchMatch[] = [];

  constructor(
    private readonly text: string,
    tokens: readonly Token[],
    private readonly vocabulary: Vocabulary,
  ) {
    this.tokens = [...tokens];
  }

  parse(): Understood {
    if (this.tokens.length === 0) this.missing('type a batch and what was done');
    if (this.tokens.length === 1 && verbOf(this.tokens[0]?.text)?.type === 'undo')
      return { batch: null, moment: null, actions: [{ type: 'undo' }] };
    this.takeMoment();
    const joins = this.tokens.some(({ text }) => verbOf(text)?.type === 'join');
    this.takeBatches(joins);
    const actions: LineAction[] = [];
    while (this.next < this.tokens.length) {
      const action = this.action();
      if (action) actions.push(action);
    }
    const [first, ...rest] = joins ? this.batches.slice(0, 1) : this.batches;
    if (!first) return this.missing('name the batch');
    if (actions.length === 0) return this.missing(`say what was done: ${VERBS.join(', ')}`);
    const of = (batch: BatchMatch): Understood => ({
      batch: batch.code,
      moment: this.moment,
      actions: actions.map((action) => this.placed(action, batch)),
    });
    return { ...of(first), ...(rest.length > 0 ? { also: rest.map(of) } : {}) };
  }

  /** An action with what the line says of all of them: where, and which pieces. */
  private placed(action: LineAction, { places }: BatchMatch): LineAction {
    if (action.type === 'undo') return action;
    const where = 'station' in action || 'operation' in action ? {} : (this.place ?? {});
    if (action.type === 'join') return 'operation' in where ? action : { ...action, ...where };
    return { ...action, ...where, ...(places === undefined ? {} : { pieces: places }) };
  }

  // ---- when, and what of ----------------------------------------------------------------------------------------

  /** `at 9:40`, `13:05`, `1 pm`, `10 min ago`, `yesterday 16:00`, wherever it stands; it is taken out of the line. */
  private takeMoment(): void {
    for (let i = 0; i < this.tokens.length; i += 1) {
      const found = this.momentAt(i);
      if (!found) continue;
      this.moment = found.moment;
      this.tokens.splice(i, found.length);
      return;
    }
  }

  private momentAt(i: number): { moment: Moment; length: number } | undefined {
    const word = (ahead: number): string | undefined => this.tokens[i + ahead]?.text.toLowerCase();
    let at = 0;
    const skip = (...words: string[]): boolean => {
      const here = word(at);
      if (here === undefined || !words.includes(here)) return false;
      at += 1;
      return true;
    };
    const said = skip('at');
    const yesterday = skip('yesterday');
    if (yesterday) skip('at');
    const clock = this.clockAt(i + at);
    if (clock)
      return { moment: { clock: clock.clock, daysAgo: yesterday ? 1 : 0 }, length: at + clock.length };
    if (yesterday) {
      const token = this.tokens[i + at - 1];
      return token && this.trouble(token, "'yesterday' needs a time of day");
    }
    if (said) return undefined;
    const amount = word(0) === 'an' || word(0) === 'a' ? 1 : Number(word(0));
    const unit = word(1) ?? '';
    if (word(2) !== 'ago' || !(amount > 0)) return undefined;
    if (/^(min|mins|minute|minutes)$/.test(unit)) return { moment: { minutesAgo: amount }, length: 3 };
    return /^(h|hour|hours)$/.test(unit) ? { moment: { minutesAgo: 60 * amount }, length: 3 } : undefined;
  }

  private clockAt(i: number): { clock: string; length: number } | undefined {
    const [token, behind] = [this.tokens[i], this.tokens[i + 1]];
    if (!token) return undefined;
    const half = /^[ap]m$/i.test(behind?.text ?? '') ? behind?.text : undefined;
    const clock = clockOf(token.text, half);
    if (clock === null) return this.trouble(token, `${token.text} is not a time of day`);
    return clock === undefined ? undefined : { clock, length: half === undefined ? 1 : 2 };
  }

  /** The batches a line is about, wherever they stand outside a reason, with their pieces; they are taken out of it. */
  private takeBatches(joins: boolean): void {
    const end = this.reasonStart();
    let i = 0;
    let limit = end;
    while (i < limit) {
      const token = this.tokens[i];
      const isTable = this.tokens[i - 1]?.text.toLowerCase() === 'table';
      const match = token && !isTable && matchBatch(token.text, this.vocabulary);
      if (!token || !match) {
        if (token && !isTable && looksLikeBatch(token.text)) this.unknownBatch(token);
        i += 1;
        continue;
      }
      // What a join names second is its partner, and stays.
      if (joins && this.batches.length > 0) {
        i += 1;
        continue;
      }
      this.tokens.splice(i, 1);
      limit -= 1;
      const told = this.placesAt(i);
      if (told) {
        this.tokens.splice(i, told.length);
        limit -= told.length;
      }
      const places = told?.places ?? match.places;
      this.batches.push({ code: match.code, ...(places === undefined ? {} : { places }) });
    }
  }

  /** Where the first reason begins: behind the last verb that takes one there is nothing but words. */
  private reasonStart(): number {
    const because = this.tokens.findIndex(({ text }) => text.toLowerCase() === 'because');
    const reasoned = this.tokens.findIndex(({ text }, i) => {
      return verbOf(text)?.line.reasoned === true && this.hasBatchBefore(i);
    });
    const starts = [because, reasoned].filter((i) => i >= 0);
    return starts.length > 0 ? Math.min(...starts) : this.tokens.length;
  }

  private hasBatchBefore(end: number): boolean {
    return this.tokens.slice(0, end).some(({ text }) => matchBatch(text, this.vocabulary) !== undefined);
  }

  /** `/3`, `/3-5`, `piece 3`, `pieces 3,5` behind a batch. */
  private placesAt(i: number): { places: number[]; length: number } | undefined {
    const [token, behind] = [this.tokens[i], this.tokens[i + 1]];
    if (!token) return undefined;
    if (token.text.startsWith('/')) {
      const places = placesOf(token.text);
      return places ? { places, length: 1 } : this.trouble(token, `'${token.text}' names no pieces`);
    }
    if (!PLACE_WORDS.has(token.text.toLowerCase()) || !behind) return undefined;
    const places = placesOf(behind.text);
    return places && { places, length: 2 };
  }

  private unknownBatch(token: Token): never {
    const near = nearestTo(token.text.split('/')[0] ?? '', this.vocabulary.batches);
    const offered =
      near.length > 0 ? `: did you mean ${near.map((one) => one.toUpperCase()).join(' or ')}?` : '';
    return this.trouble(token, `${token.text} is not an open batch${offered}`);
  }

  // ---- what was done --------------------------------------------------------------------------------------------

  /** One thing that was done: an optional number, a verb, and what the verb takes; undefined: words that say where, or nothing. */
  private action(): LineAction | undefined {
    if (FILLERS.has(this.word() ?? '')) {
      this.take();
      return undefined;
    }
    if (this.readWholePlace()) return undefined;
    const ordinal = ordinalOf(this.word() ?? '');
    const counted = verbOf(this.word(1));
    if (ordinal !== undefined && counted?.line.ordinal) {
      this.take();
      return this.said(this.take(), counted, {}, ordinal);
    }
    const before = this.countAhead();
    if (before !== undefined) {
      const count = this.count(this.take());
      while (PIECES.has(this.word() ?? '')) this.take();
      const token = this.take();
      const verb = verbOf(token.text);
      return verb
        ? this.said(token, verb, { count })
        : this.trouble(token, `'${token.text}' is not understood`);
    }
    const verb = verbOf(this.word());
    if (verb) return this.said(this.take(), verb, {});
    const defect = this.defect();
    if (defect !== undefined) return { type: 'rework', reason: defect };
    this.readPlace();
    return undefined;
  }

  private said(token: Token, { verb, type, line }: Verb, told: Selection, ordinal?: number): LineAction {
    const selection = { ...told, ...this.countAfter(token, line, told) };
    const word: SaidVerb = { ...token, verb, ...(ordinal === undefined ? {} : { ordinal }) };
    const rest = line.take?.(this, word, selection) ?? {};
    return (type === 'undo' ? { type } : { type, ...selection, ...rest }) as LineAction;
  }

  /** A number behind the verb: how many, where it can be nothing else; a question where it could be which one. */
  private countAfter(token: Token, { number: means }: Verb['line'], told: Selection): { count?: number } {
    if (this.word() === 'all') {
      this.take();
      return {};
    }
    if (told.count !== undefined || means === 'own') return {};
    const number = this.tokens[this.next];
    if (!number || !isNumber(number.text) || this.countAhead() !== undefined) return {};
    const count = this.count(this.take());
    if (PIECES.has(this.word() ?? '')) {
      this.take();
      return { count };
    }
    return means ? means(this, token, number, count) : { count };
  }

  /** The line could mean two things: both are offered, as the lines that say them. */
  ask(verb: Token, number: Token, message: string, choices: readonly Choice[]): never {
    const end = number.start + number.length;
    throw new Trouble({
      start: verb.start,
      length: end - verb.start,
      word: this.text.slice(verb.start, end),
      message,
      choices: choices.map(({ words, say, batch }) => {
        const line = this.text.slice(0, verb.start) + say + this.text.slice(end);
        const code = this.batches[0]?.code;
        return {
          words,
          line:
            batch === undefined || code === undefined
              ? line
              : line.replace(new RegExp(code.replace('-', '-?'), 'i'), `${code}${batch}`),
        };
      }),
    });
  }

  partner(verb: Token): string {
    while (['with', 'to'].includes(this.word() ?? '')) this.take();
    const last = this.batches.length > 0 ? undefined : this.missing('name the batch');
    const token = this.tokens[this.next] ?? this.partnerBefore() ?? last;
    if (!token) return this.missing(`'${verb.text}' needs the other batch`);
    if (this.tokens[this.next] === token) this.next += 1;
    const partner = matchBatch(token.text, this.vocabulary);
    if (!partner) return this.unknownBatch(token);
    if (partner.places !== undefined) {
      const places = partner.places.map((place) => `/${place}`).join(' ');
      throw new Trouble({
        start: token.start,
        length: token.length,
        word: token.text,
        message: `which pieces join is said by pairing them, ${places} alone cannot be meant: all that are ready, or how many?`,
        choices: [
          { words: `all that are ready`, line: this.text.replace(token.text, partner.code) },
          {
            words: `${partner.places.length} of them`,
            line: this.text.replace(token.text, `${partner.code} ${partner.places.length}`),
          },
        ],
      });
    }
    return partner.code;
  }

  /** In `B-217 N-118 join` the partner stands before the verb. */
  private partnerBefore(): Token | undefined {
    return this.tokens.slice(0, this.next).find(({ text }) => matchBatch(text, this.vocabulary));
  }

  /** A defect said by its name, without a verb. */
  private defect(): string | undefined {
    const rest = this.tokens.slice(this.next).map(({ text }) => text.toLowerCase());
    const known = DEFECTS.find((defect) => defect.split(' ').every((word, i) => rest[i] === word));
    if (known === undefined) return undefined;
    this.next += known.split(' ').length;
    return known;
  }

  /** A whole name of several words, although one of them is also something to do: 'Sand & buff', 'Read & rest'. */
  private readWholePlace(): boolean {
    if (this.place) return false;
    for (let length = LONGEST_PLACE; length >= 2; length -= 1) {
      const said = this.tokens.slice(this.next, this.next + length).map(({ text }) => text);
      if (said.length < length) continue;
      const match = matchWholePlace(said, this.vocabulary, this.batches[0]?.code);
      if (!match) continue;
      this.place = match;
      this.next += length;
      return true;
    }
    return false;
  }

  /** Words that say where: a station, or an operation by its own name. */
  private readPlace(): void {
    const first = this.take();
    const said = [first.text];
    if (matchBatch(first.text, this.vocabulary)) return;
    for (;;) {
      const word = this.tokens[this.next]?.text;
      const goesOn = word !== undefined && !verbOf(word) && !isNumber(word) && !looksLikeBatch(word);
      if (!goesOn || ['because', 'by', 'to'].includes(word.toLowerCase())) break;
      said.push(this.take().text);
    }
    const match = this.place ? undefined : matchPlace(said, this.vocabulary, this.batches[0]?.code);
    if (match && 'ambiguous' in match)
      return this.trouble(first, `'${said.join(' ')}' may be ${match.ambiguous.join(' or ')}`, said);
    if (!match) return this.trouble(first, `'${said.join(' ')}' is not understood${this.meant(said)}`, said);
    this.place = match;
  }

  /** ': did you mean body mill?', of all that could stand there. */
  private meant(said: readonly string[]): string {
    const batch = this.batches[0]?.code;
    const names = [
      ...this.vocabulary.stations.map(({ name }) => name),
      ...(batch === undefined ? [] : (this.vocabulary.operationsOf?.(batch) ?? []).map(({ name }) => name)),
      ...VERB_WORDS,
      ...DEFECTS,
    ];
    const near = nearestTo(said.join(' '), names);
    const offered = near.length > 0 ? near : nearestTo(said[0] ?? '', names);
    return offered.length > 0 ? `: did you mean ${offered.join(' or ')}?` : '';
  }

  // ---- what a verb takes ----------------------------------------------------------------------------------------

  /** One word that names something: a press, a check. */
  name(verb: Token, what: string): string {
    const token = this.tokens[this.next];
    if (!token) return this.missing(`'${verb.text}' needs ${what}`);
    this.next += 1;
    return token.text.toLowerCase();
  }

  values(verb: Token, what: string, unit?: MetricUnit): number[] {
    const said: Token[] = [];
    while (isNumber(this.word()) && this.countAhead() === undefined) said.push(this.take());
    const stray = this.tokens[this.next];
    if (said.length === 0 && stray)
      return this.trouble(stray, `'${stray.text}' is not a number: '${verb.text}' takes ${what}`);
    if (said.length === 0) return this.missing(`'${verb.text}' needs ${what}`);
    return this.believed(said, unit);
  }

  /** 'ok', 'yes yes no': what is looked at, not measured. */
  answers(): number[] | undefined {
    const answers: number[] = [];
    for (;;) {
      const word = this.word() ?? '';
      if (['yes', 'ok', 'good', 'passed'].includes(word)) answers.push(1);
      else if (['no', 'bad', 'failed'].includes(word)) answers.push(0);
      else return answers.length > 0 ? answers : undefined;
      this.take();
    }
  }

  reason(verb: Token): string {
    const words: string[] = [];
    const isOver = (): boolean =>
      endsReason(this.word()) || (verb.text.toLowerCase() === 'to' && this.word() === 'because');
    while (this.next < this.tokens.length && !isOver() && this.countAhead() === undefined)
      words.push(this.take().text);
    // 'sent back for a run', 'scrapped because of a knot': the reason is what follows.
    while (words.length > 1 && ['for', 'because', 'of', 'a', 'an'].includes(words[0]?.toLowerCase() ?? ''))
      words.shift();
    return words.length > 0 ? words.join(' ') : this.missing(`'${verb.text}' needs a reason`);
  }

  because(): { because?: string } {
    if (this.word() !== 'because') return {};
    const token = this.take();
    const words: string[] = [];
    while (this.next < this.tokens.length) words.push(this.take().text);
    return words.length > 0 ? { because: words.join(' ') } : this.missing(`'${token.text}' needs a reason`);
  }

  oneOf<T extends string>(verb: Token, one: T, other: T): T {
    const token = this.tokens[this.next];
    if (!token) return this.missing(`'${verb.text}' needs ${one} or ${other}`);
    this.next += 1;
    const said = token.text.toLowerCase();
    if (said === one) return one;
    return said === other ? other : this.trouble(token, `'${token.text}' is neither ${one} nor ${other}`);
  }

  /** `by tamsin`, `by Greave`, `by tv`: who works on them, when somebody else files it. */
  worker(): { who?: string } {
    if (this.word() !== 'by') return {};
    const by = this.take();
    const [first, second] = [this.tokens[this.next], this.tokens[this.next + 1]];
    if (!first) return this.missing(`'${by.text}' needs the code of a person`);
    const both = second && matchPerson(`${first.text} ${second.text}`, this.vocabulary);
    if (second && both && 'code' in both) {
      this.next += 2;
      return { who: both.code };
    }
    this.next += 1;
    const match = matchPerson(first.text, this.vocabulary);
    if (match && 'ambiguous' in match)
      return this.trouble(first, `'${first.text}' may be ${match.ambiguous.join(' or ')}`);
    // Whoever is not known here may be known to the server.
    return { who: match?.code ?? first.text.toLowerCase() };
  }

  numberAfter(word: Token, unit?: MetricUnit): number {
    while (this.word() === 'by') this.take();
    const token = this.tokens[this.next];
    if (!token) return this.missing(`'${word.text}' needs a number`);
    this.next += 1;
    return this.believed([token], unit)[0] ?? NaN;
  }

  isLength(): boolean {
    if (!isNumber(this.word())) return false;
    let last = 0;
    while (isNumber(this.word(last + 1))) last += 1;
    const said = signedNumber(`${this.word()}${this.signAhead(last + 1) ?? ''}`);
    return said !== null && said.unit !== '°C';
  }

  /** The sign of a unit that stands as a word of its own; 'in' is one at the end only: 'wet 105 in booth 3'. */
  private signAhead(ahead = 0): string | undefined {
    const word = this.word(ahead) ?? '';
    const isSign = SIGN_WORDS.has(word) || (word === 'in' && this.word(ahead + 1) === undefined);
    return isSign ? word : undefined;
  }

  /** Numbers in their unit, whether its sign stands at each, behind the last as a word, or is asked for. */
  private believed(tokens: readonly Token[], unit: MetricUnit | undefined): number[] {
    const bare = tokens.filter(({ text }) => NUMBER.test(text));
    const [first] = bare;
    if (!unit || !first) return tokens.map((token) => this.measured(token, unit));
    if (bare.length < tokens.length)
      return this.trouble(first, `say of each what it is measured in: '${first.text}' has no sign`);
    const sign = this.signAhead();
    if (sign === undefined) this.askUnit(first, bare, unit);
    else this.take();
    return tokens.map((token) => this.measured({ ...token, text: `${token.text}${sign ?? ''}` }, unit));
  }

  /** What a number says in a unit, by its own sign where it has one. */
  private measured(token: Token, unit: MetricUnit | undefined): number {
    const said = signedNumber(token.text);
    if (!said) {
      const value = decimal(token.text);
      return Number.isNaN(value) ? this.trouble(token, `'${token.text}' is not a number`) : value;
    }
    const value = unit && inUnit(said, unit);
    if (value !== undefined && value !== null) return value;
    return this.trouble(token, `'${token.text}' is in ${said.unit}, which does not belong here`);
  }

  /** Who measures in other units is asked what numbers without a sign are in: a tenth of an inch is no tenth of a millimetre. */
  private askUnit(first: Token, bare: readonly Token[], unit: MetricUnit): void {
    const last = bare.at(-1) ?? first;
    const other = signIn(unit, this.vocabulary.units ?? METRIC);
    if (other === unit) return;
    const said = this.text.slice(first.start, last.start + last.length);
    const words = [other, unit].map((sign) => `in ${NAMES[sign] ?? sign}`);
    this.ask(
      first,
      last,
      `is ${said} ${words.join(' or ')}?`,
      [other, unit].map((sign, i) => ({
        words: words[i] ?? sign,
        say: bare.map(({ text }) => `${text}${sign}`).join(' '),
      })),
    );
  }

  /** A number that belongs to the verb behind it: '6 done', '6 pieces done'; undefined: there is none. */
  private countAhead(): number | undefined {
    if (!isNumber(this.word())) return undefined;
    let at = this.next + 1;
    while (PIECES.has(this.tokens[at]?.text.toLowerCase() ?? '')) at += 1;
    return verbOf(this.tokens[at]?.text) ? at : undefined;
  }

  loneNumber(unit: MetricUnit): number | undefined {
    return isNumber(this.word()) && this.countAhead() === undefined
      ? this.believed([this.take()], unit)[0]
      : undefined;
  }

  pieces(): number | undefined {
    return isNumber(this.word()) ? this.count(this.take()) : undefined;
  }

  private count(token: Token): number {
    const value = decimal(token.text);
    return Number.isInteger(value) && value > 0
      ? value
      : this.trouble(token, `'${token.text}' is not a number of pieces`);
  }

  word(ahead = 0): string | undefined {
    return this.tokens[this.next + ahead]?.text.toLowerCase();
  }

  take(): Token {
    const token = this.tokens[this.next];
    if (!token) return this.missing('the line ends too early');
    this.next += 1;
    return token;
  }

  private trouble(token: Token, message: string, said: string[] = [token.text]): never {
    const last = this.tokens[this.tokens.indexOf(token) + said.length - 1] ?? token;
    const length = last.start + last.length - token.start;
    throw new Trouble({ start: token.start, length, word: said.join(' '), message });
  }

  private missing(message: string): never {
    throw new Trouble({ start: this.text.length, length: 0, word: '', message });
  }
}
