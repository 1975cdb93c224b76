/** One thing that can be chosen for an option: a fret wire, a colour. */
export interface OptionValue {
  /** Short word that is typed and printed: 'jumbo'. */
  code: string;
  name: string;
  /** Name of the finish recipe that makes it; absent: the model's usual one. */
  recipe?: string;
  /** Way it takes where the route forks, by key of the fork; absent: the usual ones. */
  ways?: Readonly<Record<string, string>>;
}

/** Where something is done to a piece: kind letter and key of the operation, 'N/fret'. */
export type Place = string;

/** What a customer chooses of a model. */
export interface Option {
  key: string;
  name: string;
  /** What is sold; the first is the usual one. */
  values: OptionValue[];
  /** Operations that build it in: each confirms it against the tag. */
  builtAt: Place[];
  /** Operations that must know of it and build nothing. */
  shownAt: Place[];
  /** Pieces of one rack must have it alike: it decides the program, the colour or the cure. */
  sharesRack: boolean;
}

/** When one option has this value, another must be one of some values (needs), or none of them (excludes). */
export interface OptionRule {
  kind: 'needs' | 'excludes';
  option: string;
  value: string;
  other: string;
  values: string[];
}

/** What is sold of a model, at one revision. */
export interface OptionBook {
  model: string;
  revision: number;
  options: Option[];
  rules: OptionRule[];
}

/** Code of the value chosen, by key of the option. */
export type Choices = Readonly<Record<string, string>>;

/** 'N/fret': a kind and an operation of its route. */
export const placeOf = (kind: string, operation: string): Place => `${kind}/${operation}`;

/** The usual value of every option that nothing is chosen for. */
export const withUsual = ({ options }: Pick<OptionBook, 'options'>, choices: Choices): Choices =>
  Object.fromEntries([
    ...options.flatMap(({ key, values }) => (values[0] ? [[key, values[0].code] as const] : [])),
    ...Object.entries(choices),
  ]);
