import type { FindingData, Words } from '../../model/finding.ts';
import { type AreaWords, cut, type DataValue, quote, round } from '../words.ts';
import { sayRatio } from './colour.ts';

export const contrastWords: AreaWords = {
  'text-contrast': (data, { basis, occurrences }) => {
    const { shown } = occurrences[0]!;
    if (data.unseen) return unseenText(data, shown);
    const interval =
      Number(data.highest) - Number(data.lowest) > 0.15
        ? ` (between ${ratio(data.lowest)} and ${ratio(data.highest)})`
        : '';
    const glyphs = `The glyphs measure about ${round(data.smallestDp)} to ${round(data.largestDp)} ${data.countedIn === 'pt' ? 'CSS px' : 'dp'}`;
    const why = {
      true: `${glyphs}, so this is large text, and even that needs more.`,
      false: `${glyphs}, so this is not large text.`,
      unknown:
        basis === 'measured'
          ? `${glyphs}. Even if that counts as large text, it would need ${data.requiredIfLarge} : 1.`
          : `${glyphs}. That is large text only if it is bold or at the upper end, and the picture does not settle it; a person must.`,
    }[String(data.large)];
    return {
      what: `“${cut(shown)}” is ${basis === 'measured' ? '' : 'perhaps '}too faint on its background in the ${data.theme} theme`,
      measured: `${ratio(data.ratio)} : 1${interval}, text ${data.foreground} on ${data.background}`,
      required: `${data.required} : 1${data.large === 'unknown' ? `, or ${data.requiredIfLarge} : 1 if it is large text` : ''} (WCAG 2.2, 1.4.3)`,
      why: why!,
      remedy: suggestionWords(data),
    };
  },
};

const UNSEEN: Record<string, string> = {
  'no-ink':
    'The tree holds this text, but its place in the picture is of one colour: it is invisible, or drawn elsewhere.',
  'too-small': 'Its box on the screen is only a few pixels.',
  covered: 'Something else is drawn over most of it.',
  'busy-background': 'What lies behind it is not one colour (a photo or a gradient).',
};

function unseenText({ cutBy, theme, unseen }: FindingData, shown: string): Words {
  return {
    what: `The contrast of ${quote(shown)} could not be measured in the ${theme} theme`,
    measured: 'nothing',
    required: '4.5 : 1, or 3 : 1 for large text (WCAG 2.2, 1.4.3)',
    why: `${UNSEEN[String(unseen)]}${cutBy ? ' The edge cuts it off.' : ''}`,
    remedy: cutBy
      ? 'Capture the screen scrolled so that all of it shows.'
      : 'Look at the picture, then rule on this finding.',
  };
}

function suggestionWords(data: FindingData): string {
  const options = [
    data.suggestedText && `text ${data.suggestedText} (${ratio(data.suggestedTextRatio)} : 1)`,
    data.suggestedBackground &&
      `background ${data.suggestedBackground} (${ratio(data.suggestedBackgroundRatio)} : 1)`,
  ].filter(Boolean);
  return options.length > 0
    ? `Nearest colours that pass: ${options.join(', or ')}.`
    : 'No lightness of either colour reaches the ratio: choose another pair.';
}

const ratio = (value: DataValue): string => sayRatio(Number(value));
