import type { Check } from '../areas/check.ts';
import type { Comparison } from '../model/comparison.ts';
import type { Judgement } from '../model/judgement.ts';
import type { Patch } from '../model/patch.ts';

/** A place in a text file of the app's sources; lines and columns count from 1, columns in UTF-16 code units. */
export interface SourcePlace {
  /** With slashes, from the folder of the sources. */
  path: string;
  line: number;
  column: number;
}

export const failOnChoices = ['blocking', 'any', 'nothing'] as const;

/** What a report may draw on besides the judgement. */
export interface ReportContext {
  /** That of Fenlok. */
  version: string;
  /** The shipped ones, and the team's own. */
  checks: readonly Check[];
  /** Against the candidate before. */
  comparison?: Comparison | undefined;
  /** By finding. */
  places?: ReadonlyMap<string, SourcePlace>;
  patches?: ReadonlyMap<string, Patch>;
  /** Address of the folder of whole pictures, where the reader can reach it. */
  pictures?: string | undefined;
  /** What makes a CI red: items that block, any item, or none. */
  failOn?: (typeof failOnChoices)[number];
}

/** One form of a report that is text. */
export interface TextReport {
  /** Its name in the folder of reports. */
  file: string;
  about: string;
  write(judgement: Judgement, context: ReportContext): string;
}
