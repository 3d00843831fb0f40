/** What a script is made of (POSIX.1-2017, *Shell Command Language*, section 2.10), with what mksh adds and people use: `[[`, `((`, `$'…'`. */
export type Part =
  | { kind: 'text'; text: string; quoted: boolean }
  | { kind: 'parameter'; name: string; operator?: string; word?: Word; more?: Word; quoted: boolean }
  | { kind: 'length'; name: string; quoted: boolean }
  | { kind: 'command'; script: Script; quoted: boolean }
  | { kind: 'arithmetic'; expression: Word; quoted: boolean };

/** Parts that stand together without a space. */
export type Word = Part[];

export interface Redirect {
  fd: number;
  operator: '<' | '>' | '>>' | '>|' | '<>' | '<&' | '>&' | '<<' | '<<<';
  /** Of a here-document its text. */
  target: Word;
}

export interface Assignment {
  name: string;
  word: Word;
  appends: boolean;
}

export type Command = { redirects: Redirect[] } & (
  | { kind: 'simple'; assignments: Assignment[]; words: Word[] }
  | { kind: 'group' | 'subshell'; body: Script }
  | { kind: 'if'; clauses: { test: Script; body: Script }[]; otherwise?: Script }
  | { kind: 'loop'; until: boolean; test: Script; body: Script }
  | { kind: 'for'; name: string; words?: Word[]; body: Script }
  | { kind: 'case'; word: Word; items: { patterns: Word[]; body: Script; fallsThrough: boolean }[] }
  | { kind: 'function'; name: string; body: Command }
  /** `(( … ))` and `[[ … ]]`. */
  | { kind: 'arithmetic'; expression: Word }
  | { kind: 'condition'; words: Word[] }
);

export interface Pipeline {
  negated: boolean;
  commands: Command[];
}

export interface AndOr {
  pipeline: Pipeline;
  /** On which outcome of the one before it runs. */
  when: 'always' | 'success' | 'failure';
}

export interface Script {
  items: { list: AndOr[]; inBackground: boolean }[];
}
