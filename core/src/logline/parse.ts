import type { EntryBody } from '../routing/entry.ts';
import { looksLikeBatch, matchBatch, matchStation, type Vocabulary } from './vocabulary.ts';

/** Longer than anything a person types or a scanner sends. */
export const LONGEST_LINE = 500;

/** What can be said of a batch; the same words are the types of filed entries. */
export const VERBS = [
  'start',
  'done',
  'scrap',
  'rework',
  'hold',
  'release',
  'read',
  'coat',
  'mark',
  'age',
  'measure',
  'place',
  'check',
  'join',
  'split',
  'ship',
  'undo',
] as const;
type Verb = (typeof VERBS)[number];

/** An entry as it was typed. Joins, splits and corrections name what they need; the server completes them. */
export type LineAction =
  | Extract<EntryBody, { type: Exclude<Verb, 'join' | 'split' | 'undo'> }>
  | { type: 'join'; partner: string; count?: number; station?: string; because?: string }
  | { type: 'split'; count?: number; pieces?: number[]; station?: string }
  | { type: 'undo' };

export interface Understood {
  /** Null only for a bare 'undo', which means the last thing filed here. */
  batch: string | null;
  /** Clock time 'HH:mm' the line says it happened. */
  clock: string | null;
  actions: LineAction[];
}

export interface NotUnderstood {
  /** Where in the line the trouble starts, and how long it is; length 0: something is missing at the end. */
  start: number;
  length: number;
  word: string;
  message: string;
}

export type Parsed = { understood: Understood } | { notUnderstood: NotUnderstood };

interface Token {
  text: string;
  start: number;
}

/** Thrown inside the parser only, to leave it from any depth. */
class Trouble extends Error {
  constructor(readonly at: NotUnderstood) {
    super(at.message);
  }
}

/**
 * What a typed or scanned line means: `B-217 body mill 6 done 1 scrap tear-out`. Pure; says either what it understood
 * or exactly which word it did not.
 */
export function parseLine(text: string, vocabulary: Vocabulary): Parsed {
  try {
    return { understood: new LineParser(tokensOf(text), vocabulary, text.length).parse() };
  } catch (trouble) {
    if (trouble instanceof Trouble) return { notUnderstood: trouble.at };
    throw trouble;
  }
}

function tokensOf(text: string): Token[] {
  if (text.length > LONGEST_LINE) {
    const message = `the line has ${text.length} characters, at most ${LONGEST_LINE} are read`;
    throw new Trouble({ start: LONGEST_LINE, length: text.length - LONGEST_LINE, word: '', message });
  }
  // eslint-disable-next-line no-control-regex -- control characters are exactly what is looked for
  const control = text.search(/[\u0000-\u0008\u000b-\u001f\u007f]/);
  if (control >= 0) {
    const message = `there is a control character at place ${control + 1}`;
    throw new Trouble({ start: control, length: 1, word: '', message });
  }
  return [...text.matchAll(/\S+/g)].map((match) => ({ text: match[0], start: match.index }));
}

const isVerb = (text: string | undefined): text is Verb => VERBS.includes(text?.toLowerCase() as Verb);
/** Verbs that are also what goes wrong with wood and lacquer (a check, a split) or where: within a reason they are words. */
const FAULTS_TOO: readonly Verb[] = ['check', 'split', 'place', 'mark', 'age'];
const endsReason = (text: string | undefined): boolean => isVerb(text) && !FAULTS_TOO.includes(text);
const decimal = (text: string): number =>
  /^\d+([.,]\d+)?%?$/.test(text) ? Number(text.replace(',', '.').replace('%', '')) : NaN;
const isNumber = (text: string | undefined): boolean => text !== undefined && !Number.isNaN(decimal(text));

class LineParser {
  private next = 0;
  private batch: { code: string; places?: number[] } | undefined;
  private station: string | undefined;
  private clock: string | null = null;

  constructor(
    private readonly tokens: Token[],
    private readonly vocabulary: Vocabulary,
    private readonly end: number,
  ) {}

  parse(): Understood {
    if (this.tokens.length === 0) this.missing('type a batch and what was done');
    if (this.tokens.length === 1 && this.word() === 'undo')
      return { batch: null, clock: null, actions: [{ type: 'undo' }] };
    this.header();
    const actions: LineAction[] = [];
    while (this.next < this.tokens.length) {
      if (this.readClock()) continue;
      actions.push(this.action());
    }
    if (!this.batch) return this.missing('name the batch');
    if (actions.length === 0) return this.missing(`say what was done: ${VERBS.join(', ')}`);
    return { batch: this.batch.code, clock: this.clock, actions };
  }

  /** Batch and station, in either order, up to the first number or verb. */
  private header(): void {
    while (this.next < this.tokens.length && !isVerb(this.word()) && !this.countAhead()) {
      if (this.readClock()) continue;
      const token = this.take();
      const batch = matchBatch(token.text, this.vocabulary);
      if (batch && !this.batch) this.batch = batch;
      else if (looksLikeBatch(token.text)) this.trouble(token, `${token.text} is not an open batch`);
      else this.readStation(token);
    }
  }

  private readStation(first: Token): void {
    if (this.station !== undefined) this.trouble(first, `'${first.text}' is not understood`);
    const said = [first.text];
    const following = (): string | undefined => this.tokens[this.next]?.text;
    const joined = (): boolean => {
      const word = following();
      return (
        word !== undefined &&
        !isVerb(word) &&
        !isNumber(word) &&
        !looksLikeBatch(word) &&
        word.toLowerCase() !== 'at'
      );
    };
    while (joined()) said.push(this.take().text);
    const match = matchStation(said, this.vocabulary);
    if (!match) this.trouble(first, `'${said.join(' ')}' is no station`, said);
    else if ('ambiguous' in match)
      this.trouble(first, `'${said.join(' ')}' may be ${match.ambiguous.join(' or ')}`, said);
    else this.station = match.code;
  }

  /** One thing that was done: an optional number, a verb, and what the verb takes. */
  private action(): LineAction {
    const before = this.countAhead() ? this.count(this.take()) : undefined;
    const token = this.take();
    const verb = token.text.toLowerCase();
    if (!isVerb(verb)) return this.trouble(token, `'${token.text}' is not understood`);
    const takesCount = verb !== 'read' && verb !== 'measure' && verb !== 'join' && verb !== 'undo';
    const after =
      takesCount && before === undefined && this.countAfter() ? this.count(this.take()) : undefined;
    const count = before ?? after;
    if (this.word() === 'all') this.take();
    const selection = {
      ...(this.station === undefined ? {} : { station: this.station }),
      ...(count === undefined ? {} : { count }),
      ...(this.batch?.places === undefined ? {} : { pieces: this.batch.places }),
    };
    switch (verb) {
      case 'start':
        return { type: 'start', ...selection, ...this.worker() };
      case 'done':
        return { type: 'done', ...selection, ...this.because() };
      case 'release':
        return { type: 'release', ...selection, ...this.evidence(), ...this.because() };
      case 'scrap':
      case 'rework':
      case 'hold':
        return { type: verb, ...selection, reason: this.reason(token) };
      case 'read':
        return {
          type: 'read',
          ...selection,
          valuesPct: this.values(token, 'readings'),
          ...this.temperature(),
        };
      case 'measure':
        return { type: 'measure', ...selection, valuesMm: this.values(token, 'values in mm') };
      case 'coat':
        return { type: 'coat', ...selection, ...this.coating() };
      case 'mark':
        return { type: 'mark', ...selection, passed: this.oneOf(token, 'passed', 'failed') === 'passed' };
      case 'age':
        return { type: 'age', ...selection, to: this.oneOf(token, 'cold', 'warm'), ...this.because() };
      case 'place':
        return { type: 'place', ...selection, bed: this.name(token, 'a press or table') };
      case 'check':
        return {
          type: 'check',
          ...selection,
          check: this.name(token, 'a check'),
          values: this.values(token, 'values'),
        };
      case 'split':
        return { type: 'split', ...selection };
      case 'join':
        return this.join(token, count);
      case 'ship':
        return { type: 'ship', ...selection, ...this.shipTo() };
      case 'undo':
        return { type: 'undo' };
    }
  }

  private join(verb: Token, before: number | undefined): LineAction {
    const token = this.tokens[this.next];
    if (!token) return this.missing(`'${verb.text}' needs the other batch`);
    this.next += 1;
    const partner = matchBatch(token.text, this.vocabulary);
    if (!partner) return this.trouble(token, `${token.text} is not an open batch`);
    const count = before ?? (isNumber(this.word()) ? this.count(this.take()) : undefined);
    const station = this.station === undefined ? {} : { station: this.station };
    return {
      type: 'join',
      partner: partner.code,
      ...station,
      ...(count === undefined ? {} : { count }),
      ...this.because(),
    };
  }

  /** One word that names something: a press, a check. */
  private name(verb: Token, what: string): string {
    const token = this.tokens[this.next];
    if (!token) return this.missing(`'${verb.text}' needs ${what}`);
    this.next += 1;
    return token.text.toLowerCase();
  }

  private values(verb: Token, what: string): number[] {
    const values: number[] = [];
    while (isNumber(this.word()) && !isVerb(this.tokens[this.next + 1]?.text))
      values.push(decimal(this.take().text));
    const stray = this.tokens[this.next];
    if (values.length === 0 && stray)
      return this.trouble(stray, `'${stray.text}' is not a number: '${verb.text}' takes ${what}`);
    if (values.length === 0) return this.missing(`'${verb.text}' needs ${what}`);
    return values;
  }

  private reason(verb: Token): string {
    const words: string[] = [];
    while (
      this.next < this.tokens.length &&
      !endsReason(this.word()) &&
      !this.countAhead() &&
      !this.clockAhead()
    ) {
      words.push(this.take().text);
    }
    return words.length > 0 ? words.join(' ') : this.missing(`'${verb.text}' needs a reason`);
  }

  private because(): { because?: string } {
    if (this.word() !== 'because') return {};
    return { because: this.reason(this.take()) };
  }

  private temperature(): { woodTemperatureC?: number } {
    return this.word() === 'temp' ? { woodTemperatureC: this.numberAfter(this.take()) } : {};
  }

  /** What may be said of a coat, in any order: `wet 105 booth 3 lot TL-88 by tamsin because …`. */
  private coating(): { wetUm?: number; booth?: string; lot?: string; who?: string; because?: string } {
    const said: { wetUm?: number; booth?: string; lot?: string; who?: string } = {};
    for (;;) {
      const word = this.word();
      if (word === 'wet') said.wetUm = this.numberAfter(this.take());
      else if (word === 'booth') said.booth = this.boothNamed(this.take());
      else if (word === 'lot') said.lot = this.name(this.take(), 'a lot of material').toUpperCase();
      else if (word === 'by') Object.assign(said, this.worker());
      else return { ...said, ...this.because() };
      if (this.next >= this.tokens.length) return said;
    }
  }

  /** Booths go by their number. */
  private boothNamed(word: Token): string {
    const said = this.name(word, 'the number of a booth');
    return /^\d+$/.test(said) ? `booth-${said}` : said;
  }

  private oneOf<T extends string>(verb: Token, one: T, other: T): T {
    const token = this.tokens[this.next];
    if (!token) return this.missing(`'${verb.text}' needs ${one} or ${other}`);
    this.next += 1;
    const said = token.text.toLowerCase();
    if (said === one) return one;
    return said === other ? other : this.trouble(token, `'${token.text}' is neither ${one} nor ${other}`);
  }

  /** `by tamsin`: who works on them, when somebody else files it. */
  private worker(): { who?: string } {
    return this.word() === 'by' ? { who: this.name(this.take(), 'the code of a person').toLowerCase() } : {};
  }

  /** `panel TP-4`: the test panel a cure is believed on. */
  private evidence(): { panel?: string } {
    return this.word() === 'panel' ? { panel: this.name(this.take(), 'a test panel').toUpperCase() } : {};
  }

  private shipTo(): { to?: string } {
    return this.word() === 'to' ? { to: this.reason(this.take()) } : {};
  }

  private numberAfter(word: Token): number {
    const token = this.tokens[this.next];
    if (!token) return this.missing(`'${word.text}' needs a number`);
    this.next += 1;
    const value = decimal(token.text);
    return Number.isNaN(value) ? this.trouble(token, `'${token.text}' is not a number`) : value;
  }

  private clockAhead(): boolean {
    return this.word() === 'at' && /^\d{1,2}:\d{2}$/.test(this.tokens[this.next + 1]?.text ?? '');
  }

  private readClock(): boolean {
    if (!this.clockAhead()) return false;
    this.next += 1;
    const token = this.take();
    const [hour = 99, minute = 99] = token.text.split(':').map(Number);
    if (hour > 23 || minute > 59) this.trouble(token, `${token.text} is not a time of day`);
    this.clock = token.text.padStart(5, '0');
    return true;
  }

  /** A number that belongs to the verb behind it: '6 done'. */
  private countAhead(): boolean {
    return isNumber(this.word()) && isVerb(this.tokens[this.next + 1]?.text);
  }

  /** A number that belongs to the verb before it: 'done 6', but not the 1 of 'done 1 scrap'. */
  private countAfter(): boolean {
    return isNumber(this.word()) && !this.countAhead();
  }

  private count(token: Token): number {
    const value = decimal(token.text);
    return Number.isInteger(value) && value > 0
      ? value
      : this.trouble(token, `'${token.text}' is not a number of pieces`);
  }

  private word(): string | undefined {
    return this.tokens[this.next]?.text.toLowerCase();
  }

  private take(): Token {
    const token = this.tokens[this.next];
    if (!token) return this.missing('the line ends too early');
    this.next += 1;
    return token;
  }

  private trouble(token: Token, message: string, said: string[] = [token.text]): never {
    const last = this.tokens[this.tokens.indexOf(token) + said.length - 1] ?? token;
    const length = last.start + last.text.length - token.start;
    throw new Trouble({ start: token.start, length, word: said.join(' '), message });
  }

  private missing(message: string): never {
    throw new Trouble({ start: this.end, length: 0, word: '', message });
  }
}
