import type { Outcome } from '../core/model/outcome.ts';
import { plainStyle, type TextStyle } from '../core/reports/text-style.ts';
import type { Io } from './io.ts';

// 24-bit colours that keep 4.5 to 1 on black and on white alike, near those of the report
const INK: Record<Outcome, string> = {
  passed: '38;2;14;132;122',
  failed: '38;2;205;72;40',
  cantTell: '38;2;155;110;10',
  untested: '38;2;112;122;131',
  inapplicable: '38;2;112;122;131',
};

/** Colour only in a terminal, and never where NO_COLOR is set. */
export function styleFor(io: Io): TextStyle {
  if (!io.outIsTerminal || io.env.NO_COLOR) return plainStyle;
  const wrap = (code: string, off: string) => (text: string) => `\u001b[${code}m${text}\u001b[${off}m`;
  return {
    outcome: (outcome, text) => wrap(INK[outcome], '39')(text),
    strong: wrap('1', '22'),
    faint: wrap('2', '22'),
  };
}
