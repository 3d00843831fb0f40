/** How text reports are set: marks and stress in a terminal, none elsewhere. */
import type { Outcome } from '../model/outcome.ts';

export interface TextStyle {
  outcome(outcome: Outcome, text: string): string;
  strong(text: string): string;
  faint(text: string): string;
}

export const plainStyle: TextStyle = {
  outcome: (_, text) => text,
  strong: (text) => text,
  faint: (text) => text,
};

export interface TextOptions {
  style: TextStyle;
  widthColumns: number;
  /** All findings and items, not only what needs attention. */
  all: boolean;
}
