/** A change of a source file that would fix a finding, and what speaks for it. */

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
  /** The value that is replaced, as it is written; empty where nothing is. */
  was: string;
  /** What changes, in one line. */
  says: string;
  /** What the checks say of it, and what only a built app can show. */
  proof: string;
}

/** Why none is proposed. */
export interface NoPatch {
  why: string;
  /** The finding whose patch in the same call fixes it too. */
  coveredBy?: string;
}
