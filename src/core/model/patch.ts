/** A change of a source file that would fix a finding, and what speaks for it. */

import type { Fact } from './fact.ts';

/** A text file of the source, as it is. */
export interface SourceFile {
  path: string;
  text: string;
}

interface SourceEdit {
  path: string;
  before: string;
  after: string;
}

export interface Patch {
  edits: SourceEdit[];
  /** What changes, in one line. */
  says: string;
  /** The candidate's facts as they are with it: what the next patch is held against. */
  facts: readonly Fact[];
  /** What the checks say of it, and what only a built app can show. */
  proof: string;
}

/** Why none is proposed. */
export interface NoPatch {
  why: string;
  /** The finding whose patch in the same call fixes it too. */
  coveredBy?: string;
}
