/** How a push message reads in one language, and whether it is cut where it is shown. */

import type { TextSyntax } from '../../model/catalogue.ts';
import type { PayloadText, PushPayload } from '../../model/push-payload.ts';
import { parseText } from '../text/parse-text.ts';
import { textWidthEm } from '../text/text-width.ts';

export type PreviewTrouble =
  | { kind: 'no-key'; part: Part; key: string }
  | { kind: 'arguments'; part: Part; key: string; given: number; needed: number }
  | { kind: 'cut'; part: Part; linesNeeded: number; linesShown: number };

type Part = 'title' | 'subtitle' | 'body';

export interface PayloadPreview {
  locale: string;
  title?: string;
  subtitle?: string;
  body?: string;
  trouble: PreviewTrouble[];
}

/**
 * Room of a message that is not unfolded, on a display of 360 dp: what is left beside icon and margins, in em of the
 * system's text size (14 sp titles and texts on Android, 15 pt on iOS), and how many lines.
 */
const ROOM: Record<PushPayload['form'], { widthEm: number; lines: Record<Part, number> }> = {
  apple: { widthEm: 18.5, lines: { title: 1, subtitle: 1, body: 4 } },
  android: { widthEm: 19.5, lines: { title: 1, subtitle: 1, body: 1 } },
};

/** @param textOf a text of the catalogue in that language, as the platform would pick it; undefined where there is none */
export function previewPayload(
  payload: Pick<PushPayload, 'body' | 'form' | 'subtitle' | 'title'>,
  locale: string,
  textOf: (key: string) => string | undefined,
): PayloadPreview {
  const preview: PayloadPreview = { locale, trouble: [] };
  for (const part of ['title', 'subtitle', 'body'] as const) {
    const given = payload[part];
    if (!given) continue;
    const text = fillText(given, part, payload.form, textOf, preview.trouble);
    preview[part] = text;
    const { lines, widthEm } = ROOM[payload.form];
    const linesNeeded = Math.ceil(textWidthEm(text) / widthEm);
    if (linesNeeded > lines[part])
      preview.trouble.push({ kind: 'cut', part, linesNeeded, linesShown: lines[part] });
  }
  return preview;
}

const SYNTAX: Record<PushPayload['form'], TextSyntax> = { apple: 'printf-apple', android: 'printf-java' };

function fillText(
  given: PayloadText,
  part: Part,
  form: PushPayload['form'],
  textOf: (key: string) => string | undefined,
  trouble: PreviewTrouble[],
): string {
  if ('text' in given) return given.text;
  const { args, key } = given;
  const text = textOf(key);
  if (text === undefined) {
    trouble.push({ kind: 'no-key', part, key });
    return key;
  }
  const { parts } = parseText(text, SYNTAX[form]);
  const needed = Math.max(0, ...parts.map((one) => (one.kind === 'placeholder' ? one.position : 0)));
  if (needed !== args.length) trouble.push({ kind: 'arguments', part, key, given: args.length, needed });
  return parts
    .map((one) => (one.kind === 'placeholder' ? (args[one.position - 1] ?? one.written) : one.written))
    .join('')
    .replaceAll('%%', '%');
}
