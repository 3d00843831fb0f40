import type { FindingData } from '../../../model/finding.ts';
import { type AreaWords, quote, round } from '../../words.ts';

const HARM: Record<string, [string, string]> = {
  lost: [
    'is not there any more',
    'it is in the first capture and not in the second, where what stands before and after it is',
  ],
  cut: ['is cut off by the edge of the screen', 'it ends beyond the picture'],
  clipped: [
    'does not fit into its box',
    'its letters end at the edge of the box, or are not drawn as high or as wide as they would be',
  ],
  ellipsized: ['ends in an ellipsis', 'three dots where the text goes on'],
  overlapped: ['lies over another text', 'its box and that of another share more than a tenth'],
};

/** What both captures of a pair were held against, in words. */
function harmWords(data: FindingData, when: string, required: string, remedy: string) {
  const [what, measured] = HARM[String(data.harm)]!;
  return {
    what: `${quote(String(data.text))} ${data.other ? what.replace('another text', quote(String(data.other))) : what} ${when}`,
    measured,
    required,
    why: `It is whole in its twin: ${data.twin}.`,
    remedy,
  };
}

const percent = (data: FindingData): string => `${Math.round(Number(data.scale) * 100)} %`;
const ROOM = 'Let the box grow with its text: no fixed height, no single line; let the screen scroll.';

export const pairWords: AreaWords = {
  'text-scaling': (data) =>
    data.harm === 'not-grown'
      ? {
          what: `${quote(String(data.text))} does not grow with the text size`,
          measured: `its glyphs are ${round(data.beforeDp)} dp high, and ${round(data.glyphDp)} dp at ${percent(data)}: ${Number(data.grown).toFixed(2)} times`,
          required: `about ${Number(data.expected).toFixed(2)} times, by the platform's curve (WCAG 2.2, 1.4.4)`,
          why: `Both captures show the same words. The twin: ${data.twin}. If the app reads the setting only when it starts, it was not restarted in between.`,
          remedy: 'Give its size in sp (Android), or use a scaled font (iOS).',
        }
      : harmWords(
          data,
          `at ${percent(data)} text size`,
          'text up to 200 % without loss (WCAG 2.2, 1.4.4)',
          ROOM,
        ),

  'display-setting': (data) =>
    data.harm === 'as-thin'
      ? {
          what: 'Bold text has no effect here',
          measured: `strokes are ${Number(data.gain).toFixed(2)} times as wide as without it`,
          required: 'wider strokes',
          why: `Held against ${data.twin}. If the app reads the setting only when it starts, it was not restarted in between.`,
          remedy: "Use the system's text styles, or read the setting.",
        }
      : harmWords(data, `with ${String(data.procedure).replaceAll('-', ' ')}`, 'text that stays whole', ROOM),

  'rotated-screen': (data) =>
    harmWords(
      data,
      'with the phone held sideways',
      'every screen in both orientations (WCAG 2.2, 1.3.4)',
      'Lay the screen out for the wide shape too, and let it scroll.',
    ),
};
