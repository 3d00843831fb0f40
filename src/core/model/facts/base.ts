import type { Platform } from '../candidate.ts';
import type { Cell } from '../cell.ts';

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
