import type { FindingData, Words } from '../../model/finding.ts';
import { type AreaWords, cut, type DataValue, quote, round, textsOf } from '../words.ts';
import { sayRatio } from './colour.ts';

export const contrastWords: AreaWords = {
  'text-contrast': (data, { basis, occurrences }) => {
    const { shown } = occurrences[0]!;
    if (data.unseen) return unseenText(data, shown);
    return {
      what: `“${cut(shown)}” is ${basis === 'measured' ? '' : 'perhaps '}too faint on its background in the ${data.theme} theme`,
      measured: `${ratio(data.ratio)} : 1${interval(data)}, text ${data.foreground} on ${data.background}${BEHIND[String(data.behind)] ?? ''}`,
      required: `${data.required} : 1${data.large === 'unknown' ? `, or ${data.requiredIfLarge} : 1 if it is large text` : ''} (WCAG 2.2, 1.4.3)`,
      why: `${glyphs(data)}${largeness(data, basis)}${readings(data)}${place(data)}${drawnDescription(data)}${howSure(data)}`,
      remedy: data.packed ? SAVE_AS_PNG : data.doubtful ? LOOK : suggestionWords(data),
    };
  },

  'icon-contrast': (data, { basis, identity, occurrences }) => {
    const shown = occurrences[0]!.shown || identity.subject;
    if (data.unseen === 'no-ink')
      return {
        what: `Nothing is to be seen of ${quote(shown)} in the ${data.theme} theme`,
        measured: 'its place in the picture is of one colour',
        required: '3 : 1 (WCAG 2.2, 1.4.11)',
        why: 'It can be acted on or has a name, so it is meant to be there: it is invisible, or drawn elsewhere.',
        remedy: LOOK,
      };
    if (data.unseen)
      return {
        what: `The contrast of ${quote(shown)} could not be measured in the ${data.theme} theme`,
        measured: 'nothing',
        required: '3 : 1 (WCAG 2.2, 1.4.11)',
        why: UNSEEN[String(data.unseen)]!,
        remedy: LOOK,
      };
    return {
      what: `The icon ${quote(shown)} is ${basis === 'measured' ? '' : 'perhaps '}too faint in the ${data.theme} theme`,
      measured: `${ratio(data.ratio)} : 1${interval(data)}, ${data.foreground} on ${data.background}`,
      required: `${data.required} : 1 (WCAG 2.2, 1.4.11)`,
      why: `People who cannot make out its shape do not know that it is there. It was measured against what surrounds it: the shape that carries it, or else the screen.${data.cutBy ? ' The edge cuts a part of it off, and what is left may be something else: a capture scrolled further decides it.' : ''}${howSure(data)}`,
      remedy: data.cutBy
        ? 'Capture the screen scrolled so that all of it shows.'
        : data.packed
          ? SAVE_AS_PNG
          : data.suggestedIcon
            ? `Nearest colour that passes: ${data.suggestedIcon} (${ratio(data.suggestedIconRatio)} : 1). If it only decorates, or is a logo, rule it a false alarm.`
            : 'No lightness of this colour reaches the ratio: choose another pair.',
    };
  },

  'theme-contrast': (data, { basis, occurrences }) => ({
    what: `${data.hint ? 'Hints' : 'Texts'} in ${data.text} ${basis === 'measured' ? 'are' : 'are perhaps'} too faint on ${data.behind} in the ${data.theme} theme`,
    measured: `${ratio(data.ratio)} : 1, ${data.foreground} on ${data.background}`,
    required: `${data.required} : 1${data.large === 'unknown' ? `, or ${data.requiredIfLarge} : 1 if it is large text` : ''} (WCAG 2.2, 1.4.3)`,
    why: `${listPlaces(occurrences)} put them together${Number(data.size) > 0 ? `, at ${round(data.size)} sp${data.bold ? ' bold' : ''}` : ''}.${data.from === 'window' ? ' The background is that of the window: where the layout is put on another one, rule it a false alarm.' : ''}`,
    remedy: suggestionWords(data),
  }),

  'inverted-contrast': (data, { occurrences }) => ({
    what: `“${cut(occurrences[0]!.shown)}” fades with colours inverted, in the ${data.theme} theme`,
    measured: `${ratio(data.inverted)} : 1 inverted, ${data.seenText} on ${data.seenBackground}; ${ratio(data.plain)} : 1 as it is`,
    required: `${data.required} : 1, to be made out at all`,
    why: 'People who need inverted colours turn them on for every app. A strong hue does not keep its distance from black or white when both are inverted.',
    remedy: data.suggestion
      ? `A paler or darker one of the same hue stands out both ways: ${data.suggestion}.`
      : 'No lightness of this hue stands out both ways: choose another hue.',
  }),

  'colour-alone': ({ colours, left, plain, theme, vision }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} differs by colour alone, and not for everyone, in the ${theme} theme`,
    measured: `${textsOf(colours).join(' and ')} differ by ${round(plain)}, and by ${round(left)} with ${vision} (CIEDE2000)`,
    required: 'meaning that does not rest on colour alone (WCAG 2.2, 1.4.1)',
    why: 'One man in twelve sees some colours as the same. Text and shape are the same here.',
    remedy: 'Add a shape or a word. If the colours mean nothing, rule it a false alarm.',
  }),

  'light-only-colour': ({ colours, of, platform }) => {
    const same = textsOf(colours);
    return {
      what: `${same.length} of ${of} colours ${platform === 'ios' ? 'with a name' : 'of the themes'} are the same in the dark theme`,
      measured: same.slice(0, 6).join(', ') + (same.length > 6 ? ` and ${same.length - 6} more` : ''),
      required: 'a dark value for each colour that was chosen for a light theme',
      why: 'Those that were made for light backgrounds remain light, or vanish, in the dark.',
      remedy:
        platform === 'ios'
          ? 'Give them a dark appearance in the asset catalogue; rule it a false alarm where they fit both.'
          : 'Give them a value under res/values-night; rule it a false alarm where they fit both.',
    };
  },
};

const PLACES_NAMED = 3;

function listPlaces(occurrences: readonly { shown: string }[]): string {
  const places = [...new Set(occurrences.map(({ shown }) => shown))];
  const more = places.length - PLACES_NAMED;
  return `${places.slice(0, PLACES_NAMED).join('; ')}${more > 0 ? `; and ${more} more` : ''}`;
}

const interval = (data: FindingData): string =>
  Number(data.highest) - Number(data.lowest) > 0.15
    ? ` (between ${ratio(data.lowest)} and ${ratio(data.highest)})`
    : '';

const BEHIND: Record<string, string> = {
  gradient: ', at the worst place of a gradient',
  picture: ', at the worst place of a picture',
};

function glyphs({ bold, countedIn, largestDp, sizeFrom, smallestDp }: FindingData): string {
  const unit = countedIn === 'pt' ? 'CSS px' : 'dp';
  const weight = bold === 'true' ? ', bold' : bold === 'false' ? ', not bold' : '';
  return sizeFrom === 'tree'
    ? `The text is ${round(smallestDp)} ${unit}${weight}`
    : sizeFrom === 'package'
      ? `The layout gives it ${round(largestDp)} ${unit}${weight}`
      : `The glyphs show a text of about ${round(smallestDp)} to ${round(largestDp)} ${unit}${weight}`;
}

function largeness({ large, requiredIfLarge }: FindingData, basis: string): string {
  if (large === 'true') return ', so this is large text, and even that needs more.';
  if (large === 'false') return ', so this is not large text.';
  return basis === 'measured'
    ? `. Even if that counts as large text, it would need ${requiredIfLarge} : 1.`
    : '. That is large text only if it is bold or at the upper end, and the picture does not settle it; a person must.';
}

const readings = ({ countedIn, readingsAgree }: FindingData): string =>
  readingsAgree === false
    ? ` Counted in ${countedIn === 'dp' ? 'points, as WCAG does,' : 'dp, as mobile practice does,'} it would come out otherwise (limits.largeTextCountedIn).`
    : '';

const place = ({ behind, meanRatio }: FindingData): string =>
  behind === 'flat' ? '' : ` On average over the text it is ${ratio(meanRatio)} : 1.`;

/** One plain sentence on why it is not certain, where it is not. */
const howSure = ({ doubtful, packed }: FindingData): string =>
  packed
    ? ' This is an estimate: the screenshot was compressed with losses (JPEG or WebP), which changes the colours around edges.'
    : doubtful
      ? ' This is an estimate: what is drawn in its box is not as wide or as high as this text would be, so a drawing or a pattern may have been measured instead.'
      : '';

const drawnDescription = ({ described }: FindingData): string =>
  described ? ' The text is the description of its view, and the picture shows that it is drawn there.' : '';

const SAVE_AS_PNG = 'Take the screenshot again as PNG, and add it without sending it through a messenger.';
const LOOK = 'Look at the picture, then rule on this finding.';

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
    remedy: cutBy ? 'Capture the screen scrolled so that all of it shows.' : LOOK,
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
