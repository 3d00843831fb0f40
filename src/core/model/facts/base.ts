import type { Platform } from '../candidate.ts';
import type { Cell } from '../cell.ts';
import type { Box } from '../geometry.ts';

export interface OfPackage {
  platform: Platform;
  /** Digest of the package. */
  evidence: string;
}

export interface OfCapture {
  cell: Cell;
  /** Digest of the capture, so that proof can be cut from it again. */
  evidence: string;
  platform: Platform;
}

/** An element of a capture as facts name it. */
export interface ElementRef {
  /** Language-free, see `placeNodes`. */
  key: string;
  className: string;
  /** What a person would call it: its visible text, else its label. */
  shown: string;
  boundsPx: Box;
}

/** One thing of a screen's state that is not as it was. */
export interface StateChange {
  key: string;
  /** `typed` into a field, a `text` that is shown, another `content` of a list, an element that is `gone`. */
  what: 'typed' | 'text' | 'checked' | 'selected' | 'focused' | 'scroll' | 'content' | 'gone';
  before: string;
  after: string;
  /** Where it is now, or was. */
  boundsPx: Box;
}
