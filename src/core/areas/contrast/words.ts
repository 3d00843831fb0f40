import type { DataValue } from '../words.ts';
import { formatRatio } from './colour.ts';

export const interval = (data: { lowest: number; highest: number }): string =>
  data.highest - data.lowest > 0.15 ? ` (between ${ratio(data.lowest)} and ${ratio(data.highest)})` : '';

/** One plain sentence on how certain it is, where something stands in the way. */
export function howSure(
  { doubtful, packed }: { doubtful?: boolean; packed?: boolean },
  basis: string,
): string {
  if (packed && basis === 'measured')
    return ' The screenshot was compressed with losses (JPEG or WebP): its colours are not exact, and the interval allows for that.';
  if (packed)
    return ' This is an estimate: the screenshot was compressed with losses (JPEG or WebP), which changes the colours around edges.';
  return doubtful
    ? ' This is an estimate: what is drawn in its box is not as wide or as high as this text would be, so a drawing or a pattern may have been measured instead.'
    : '';
}

export const SAVE_AS_PNG =
  'Take the screenshot again as PNG, and add it without sending it through a messenger.';

export const LOOK = 'Look at the picture, then rule on this finding.';

export const UNSEEN: Record<'no-ink' | 'too-small' | 'covered' | 'busy-background', string> = {
  'no-ink':
    'The tree holds this text, but its place in the picture is of one colour: it is invisible, or drawn elsewhere.',
  'too-small': 'Its box on the screen is only a few pixels.',
  covered: 'Something else is drawn over most of it.',
  'busy-background': 'What lies behind it is not one colour (a photo or a gradient).',
};

interface Suggested {
  suggestedText?: string;
  suggestedTextRatio?: number;
  suggestedBackground?: string;
  suggestedBackgroundRatio?: number;
}

export function suggestionWords(data: Suggested): string {
  const options = [
    suggestion(data.suggestedText, data.suggestedTextRatio, 'text '),
    suggestion(data.suggestedBackground, data.suggestedBackgroundRatio, 'background '),
  ].filter((option) => option !== undefined);
  return options.length > 0
    ? `Nearest colours that pass: ${options.join(', or ')}.`
    : 'No lightness of either colour reaches the ratio: choose another pair.';
}

/** A colour that passes, with its ratio: `#56616C (4.61 : 1)`. */
export const suggestion = (colour?: string, reached?: number, of = ''): string | undefined =>
  colour === undefined || reached === undefined ? undefined : `${of}${colour} (${ratio(reached)} : 1)`;

export const ratio = (value: DataValue): string => formatRatio(Number(value));
