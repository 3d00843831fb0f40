/** WCAG 2.2, success criterion 1.4.3 Contrast (Minimum): 4.5 to 1, large text 3 to 1. */

import { z } from 'zod';
import type { SeenTextFact, TextContrastFact, UnseenTextFact } from '../../../model/fact.ts';
import type { Words } from '../../../model/finding.ts';
import type { Limits } from '../../../model/limits.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { cut, quote, round } from '../../words.ts';
import { parseHex } from '../colour.ts';
import { LARGE_TEXT } from '../large-text.ts';
import { layoutSizes, withLayoutSize } from '../layout-sizes.ts';
import { roundColour } from '../round-colour.ts';
import { suggestColours } from '../suggest-colour.ts';
import { howSure, interval, LOOK, ratio, SAVE_AS_PNG, suggestionWords, UNSEEN } from '../words.ts';

const unseenSchema = z.strictObject({
  unseen: z.enum(['covered', 'no-ink', 'too-small', 'busy-background']),
  isCut: z.boolean(),
  theme: z.enum(['light', 'dark']),
  required: z.number(),
  requiredIfLarge: z.number(),
});
const seenSchema = z.strictObject({
  ratio: z.number(),
  lowest: z.number(),
  highest: z.number(),
  required: z.number(),
  requiredIfLarge: z.number(),
  large: z.enum(['true', 'false', 'unknown']),
  countedIn: z.enum(['pt', 'dp']),
  /** Whether it comes out the same counted in dp and in points. */
  readingsAgree: z.boolean(),
  behind: z.enum(['flat', 'picture', 'gradient']),
  meanRatio: z.number(),
  bold: z.enum(['true', 'false', 'unknown']),
  sizeFrom: z.enum(['package', 'tree', 'glyphs']),
  foreground: z.string(),
  background: z.string(),
  smallestDp: z.number(),
  largestDp: z.number(),
  theme: z.enum(['light', 'dark']),
  described: z.boolean().optional(),
  doubtful: z.boolean().optional(),
  packed: z.boolean().optional(),
  suggestedText: z.string().optional(),
  suggestedTextRatio: z.number().optional(),
  suggestedBackground: z.string().optional(),
  suggestedBackgroundRatio: z.number().optional(),
});
type Seen = z.infer<typeof seenSchema>;
const dataSchema = z.union([seenSchema, unseenSchema]);
type Data = z.infer<typeof dataSchema>;

export const textContrast = defineCheck({
  id: 'text-contrast',
  area: 'contrast',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.4.3 Contrast (Minimum)',
  basis: 'either',
  needs: 'capture',
  reads: ['text-contrast', 'colour-pair'],
  limits: ['largeTextCountedIn', 'largeTextContrast', 'textContrast'],
  data: dataSchema,
  words: (data, { basis, occurrences }) => {
    const { shown } = occurrences[0]!;
    if ('unseen' in data) return unseenText(data, shown);
    return {
      what:
        data.lowest >= data.required
          ? `It is not sure that “${cut(shown)}” itself was measured in the ${data.theme} theme`
          : `“${cut(shown)}” is ${basis === 'measured' ? '' : 'perhaps '}too faint on its background in the ${data.theme} theme`,
      measured: `${ratio(data.ratio)} : 1${interval(data)}, text ${data.foreground} on ${data.background}${BEHIND[data.behind]}`,
      required: `${data.required} : 1${data.large === 'unknown' ? `, or ${data.requiredIfLarge} : 1 if it is large text` : ''} (WCAG 2.2, 1.4.3)`,
      why: `${glyphs(data)}${largeness(data, basis)}${readings(data)}${place(data)}${drawnDescription(data)}${howSure(data, basis)}`,
      remedy:
        data.packed && basis !== 'measured' ? SAVE_AS_PNG : data.doubtful ? LOOK : suggestionWords(data),
    };
  },

  *run(facts, intent) {
    for (const { behindCount, cell } of facts.of('capture'))
      if (behindCount) yield { outcome: 'inapplicable', cell, count: behindCount };
    const sizes = facts.once(layoutSizes, intent);
    const texts = facts.of('text-contrast');
    // what the edge leaves of a row is decided by a row like it that can be seen
    const seen = new Set(texts.filter((text) => !text.unseen).map(kindOf));
    // and what is not sure of a text, by one in the same colours that is
    const sure = new Set(texts.flatMap((text) => (text.unseen || text.doubtful ? [] : coloursOf(text))));
    for (const text of texts) {
      const decidedElsewhere = text.unseen
        ? text.cutBy && seen.has(kindOf(text))
        : text.doubtful && sure.has(coloursOf(text));
      if (!text.enabled || decidedElsewhere) yield { outcome: 'inapplicable', cell: text.cell };
      else
        yield text.unseen
          ? undecided(text, intent.limits)
          : judgeText(withLayoutSize(text, sizes), intent.limits);
    }
  },

  doc: {
    looksAt:
      'Every text of every capture, and every description that turns out to be drawn, its two colours measured from the pixels',
    against:
      "WCAG 2.2, 1.4.3: 4.5 to 1, large text 3 to 1. On an uneven background the worst stretch of one em counts. Size and weight come from the capture, from the package's layouts by resource id where the glyphs agree, else from the glyphs. What lies behind a scrim is left out. Estimated where size, weight or a thin stroke leave it open, where what is drawn is not as wide and high as the text's letters, and on JPEG and WebP where losses may decide. How far it can be believed: [accuracy.md](../accuracy.md)",
    matters: 'Faint text is lost in sunlight, on cheap screens, and for everybody whose sight is weak.',
    measured:
      "The colours of the letters and of what lies behind them, from the pixels of the capture. On an uneven background the worst stretch of one em counts. Size and weight come from the capture, from the package's layouts, or from the glyphs.",
    errs: 'Size, weight, thin strokes and pictures with losses can leave it open; then it is estimated and says so. How far it can be believed is in docs/accuracy.md.',
    fixes: [
      {
        where: 'colors.xml',
        language: 'xml',
        code: '<color name="text_secondary">#56616C</color>  <!-- the suggested colour -->',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'Text(hint).foregroundStyle(Color("TextSecondary"))',
      },
    ],
  },
});

const kindOf = ({ cell, element }: TextContrastFact): string => `${cell.screen}|${cell.theme}|${element.key}`;

const coloursOf = (text: SeenTextFact): string =>
  `${kindOf(text)}|${roundColour(text.foreground)}|${roundColour(text.background)}`;

/** A text in the tree that nobody can see in the picture may be the faintest of all, so it is never let pass. */
function undecided(
  fact: UnseenTextFact,
  limits: Pick<Limits, 'largeTextContrast' | 'textContrast'>,
): Assertion<Data> {
  const { cell, unseen } = fact;
  const data = {
    unseen,
    isCut: fact.cutBy !== undefined,
    theme: cell.theme,
    required: limits.textContrast,
    requiredIfLarge: limits.largeTextContrast,
  };
  const draft = elementDraft<Data>(fact, {
    basis: 'estimated',
    severity: 0,
    digest: unseen,
    aspect: cell.theme,
    data,
  });
  return { outcome: 'cantTell', cell, draft };
}

function judgeText(
  fact: SeenTextFact,
  limits: Pick<Limits, 'largeTextCountedIn' | 'largeTextContrast' | 'textContrast'>,
): Assertion<Data> {
  const { cell, interval } = fact;
  const large = isLarge(fact, limits.largeTextCountedIn);
  const [least, most] =
    large === 'unknown'
      ? [limits.largeTextContrast, limits.textContrast]
      : large
        ? [limits.largeTextContrast, limits.largeTextContrast]
        : [limits.textContrast, limits.textContrast];
  const isSure = !fact.doubtful;
  if (interval[0] >= most && isSure) return { outcome: 'passed', cell };
  const measured = interval[1] < least && isSure;
  const draft = elementDraft<Data>(fact, {
    basis: measured ? 'measured' : 'estimated',
    severity: most - fact.ratio,
    digest: `${roundColour(fact.foreground)} on ${roundColour(fact.background)}`,
    aspect: cell.theme,
    data: dataOf(fact, most, large, limits),
  });
  return { outcome: measured ? 'failed' : 'cantTell', cell, draft };
}

function isLarge(
  { bold, textSizeDp: [lowest, highest] }: SeenTextFact,
  countedIn: keyof typeof LARGE_TEXT,
): boolean | 'unknown' {
  const { any, bold: ifBold } = LARGE_TEXT[countedIn];
  if (lowest >= any || (bold === true && lowest >= ifBold)) return true;
  return highest < ifBold || (bold === false && highest < any) ? false : 'unknown';
}

function dataOf(
  fact: SeenTextFact,
  required: number,
  large: boolean | 'unknown',
  limits: Pick<Limits, 'largeTextCountedIn' | 'largeTextContrast' | 'textContrast'>,
): Seen {
  const suggested = suggestColours(parseHex(fact.foreground)!, parseHex(fact.background)!, required);
  return {
    ratio: fact.ratio,
    lowest: fact.interval[0],
    highest: fact.interval[1],
    required,
    requiredIfLarge: limits.largeTextContrast,
    large: `${large}`,
    countedIn: limits.largeTextCountedIn,
    // dp and points disagree from 18 to 24, and for bold text from 14 to 18.7
    readingsAgree: fact.interval[1] < limits.largeTextContrast || isLarge(fact, 'dp') === isLarge(fact, 'pt'),
    behind: fact.behind,
    meanRatio: fact.meanRatio,
    bold: `${fact.bold}`,
    sizeFrom: fact.sizeFrom,
    foreground: fact.foreground,
    background: fact.background,
    smallestDp: fact.textSizeDp[0],
    largestDp: fact.textSizeDp[1],
    theme: fact.cell.theme,
    ...(fact.described && { described: true }),
    ...(fact.doubtful && { doubtful: true }),
    ...(fact.packed && { packed: true }),
    ...(suggested.text && { suggestedText: suggested.text.colour, suggestedTextRatio: suggested.text.ratio }),
    ...(suggested.background && {
      suggestedBackground: suggested.background.colour,
      suggestedBackgroundRatio: suggested.background.ratio,
    }),
  };
}

const BEHIND: Record<Seen['behind'], string> = {
  flat: '',
  gradient: ', at the worst place of a gradient',
  picture: ', at the worst place of a picture',
};

function glyphs({ bold, countedIn, largestDp, sizeFrom, smallestDp }: Seen): string {
  const unit = countedIn === 'pt' ? 'CSS px' : 'dp';
  const weight = bold === 'true' ? ', bold' : bold === 'false' ? ', not bold' : '';
  return sizeFrom === 'tree'
    ? `The text is ${round(smallestDp)} ${unit}${weight}`
    : sizeFrom === 'package'
      ? `The layout gives it ${round(largestDp)} ${unit}${weight}`
      : `The glyphs show a text of about ${round(smallestDp)} to ${round(largestDp)} ${unit}${weight}`;
}

function largeness({ large, requiredIfLarge }: Seen, basis: string): string {
  if (large === 'true') return ', so this is large text, and even that needs more.';
  if (large === 'false') return ', so this is not large text.';
  return basis === 'measured'
    ? `. Even if that counts as large text, it would need ${requiredIfLarge} : 1.`
    : '. That is large text only if it is bold or at the upper end, and the picture does not settle it; a person must.';
}

const readings = ({ countedIn, readingsAgree }: Seen): string =>
  readingsAgree === false
    ? ` Counted in ${countedIn === 'dp' ? 'points, as WCAG does,' : 'dp, as mobile practice does,'} it would come out otherwise (limits.largeTextCountedIn).`
    : '';

const place = ({ behind, meanRatio }: Seen): string =>
  behind === 'flat' ? '' : ` On average over the text it is ${ratio(meanRatio)} : 1.`;

const drawnDescription = ({ described }: Seen): string =>
  described ? ' The text is the description of its view, and the picture shows that it is drawn there.' : '';

function unseenText(
  { isCut, required, requiredIfLarge, theme, unseen }: z.infer<typeof unseenSchema>,
  shown: string,
): Words {
  return {
    what: `The contrast of ${quote(shown)} could not be measured in the ${theme} theme`,
    measured: 'nothing',
    required: `${required} : 1, or ${requiredIfLarge} : 1 for large text (WCAG 2.2, 1.4.3)`,
    why: `${UNSEEN[unseen]}${isCut ? ' The edge cuts it off.' : ''}`,
    remedy: isCut ? 'Capture the screen scrolled so that all of it shows.' : LOOK,
  };
}
