/** WCAG 2.2, success criterion 1.4.11 Non-text Contrast: 3 to 1 for what is needed to understand a graphic or a control. */

import { z } from 'zod';
import type { IconContrastFact, SeenIconFact } from '../../../model/fact.ts';
import type { Limits } from '../../../model/limits.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';
import { parseHex } from '../colour.ts';
import { roundColour } from '../round-colour.ts';
import { suggestColours } from '../suggest-colour.ts';
import { howSure, interval, LOOK, ratio, SAVE_AS_PNG, suggestion, UNSEEN } from '../words.ts';

const unseenSchema = z.strictObject({
  unseen: z.enum(['covered', 'no-ink', 'too-small', 'busy-background']),
  theme: z.enum(['light', 'dark']),
  required: z.number(),
});
const seenSchema = z.strictObject({
  theme: z.enum(['light', 'dark']),
  ratio: z.number(),
  lowest: z.number(),
  highest: z.number(),
  required: z.number(),
  foreground: z.string(),
  background: z.string(),
  suggestedIcon: z.string().optional(),
  suggestedIconRatio: z.number().optional(),
  cutBy: z.enum(['screen', 'scroll']).optional(),
  packed: z.boolean().optional(),
});
const dataSchema = z.union([seenSchema, unseenSchema]);
type Data = z.infer<typeof dataSchema>;

export const iconContrast = defineCheck({
  id: 'icon-contrast',
  area: 'contrast',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.4.11 Non-text Contrast',
  basis: 'either',
  needs: 'capture',
  reads: ['icon-contrast'],
  limits: ['iconContrast'],
  data: dataSchema,
  words: (data, { basis, identity, occurrences }) => {
    const shown = occurrences[0]!.shown || identity.subject;
    if ('unseen' in data)
      return {
        what:
          data.unseen === 'no-ink'
            ? `Nothing is to be seen of ${quote(shown)} in the ${data.theme} theme`
            : `The contrast of ${quote(shown)} could not be measured in the ${data.theme} theme`,
        measured: data.unseen === 'no-ink' ? 'its place in the picture is of one colour' : 'nothing',
        required: `${data.required} : 1 (WCAG 2.2, 1.4.11)`,
        why:
          data.unseen === 'no-ink'
            ? 'It can be acted on or has a name, so it is meant to be there: it is invisible, or drawn elsewhere.'
            : UNSEEN[data.unseen],
        remedy: LOOK,
      };
    const suggested = suggestion(data.suggestedIcon, data.suggestedIconRatio);
    return {
      what:
        data.lowest >= data.required
          ? `It is not sure that the icon ${quote(shown)} itself was measured in the ${data.theme} theme`
          : `The icon ${quote(shown)} is ${basis === 'measured' ? '' : 'perhaps '}too faint in the ${data.theme} theme`,
      measured: `${ratio(data.ratio)} : 1${interval(data)}, ${data.foreground} on ${data.background}`,
      required: `${data.required} : 1 (WCAG 2.2, 1.4.11)`,
      why: `People who cannot make out its shape do not know that it is there. It was measured against what surrounds it: the shape that carries it, or else the screen.${data.cutBy ? ' The edge cuts a part of it off, and what is left may be something else: a capture scrolled further decides it.' : ''}${howSure({ packed: data.packed }, basis)}`,
      remedy: data.cutBy
        ? 'Capture the screen scrolled so that all of it shows.'
        : data.packed && basis !== 'measured'
          ? SAVE_AS_PNG
          : suggested
            ? `Nearest colour that passes: ${suggested}. If it only decorates, or is a logo, mark it as a false alarm.`
            : 'No lightness of this colour reaches the ratio: choose another pair.',
    };
  },

  *run(facts, intent) {
    for (const { behindCount, cell } of facts.of('capture'))
      if (behindCount) yield { outcome: 'inapplicable', cell, count: behindCount };
    const icons = facts.of('icon-contrast');
    // what the edge leaves of a row is decided by a row like it that can be seen
    const seen = new Set(icons.filter((icon) => !icon.unseen && !icon.cutBy).map(kindOf));
    for (const icon of icons) {
      const { cell } = icon;
      // a photo is no icon, what is cut away has nothing to tell, and an empty picture that nobody named may be a spacer
      const isSpacer = icon.unseen === 'no-ink' && !icon.meant;
      if (
        !icon.enabled ||
        icon.unseen === 'photo' ||
        isSpacer ||
        (icon.cutBy && (icon.unseen || seen.has(kindOf(icon))))
      )
        yield { outcome: 'inapplicable', cell };
      else if (icon.unseen)
        yield {
          outcome: 'cantTell',
          cell,
          draft: elementDraft<Data>(icon, {
            basis: 'estimated',
            severity: 0,
            digest: icon.unseen,
            aspect: cell.theme,
            data: { unseen: icon.unseen, theme: cell.theme, required: intent.limits.iconContrast },
          }),
        };
      else yield judgeIcon(icon, intent.limits);
    }
  },

  doc: {
    looksAt:
      'Icons, controls without a text, and what is drawn beside a text: each against the shape that carries it, or else the screen. Of a switch or a box, its outline or the part inside',
    against:
      'WCAG 2.2, 1.4.11: 3 to 1 (`limits.iconContrast`). Estimated where parts of several colours, or a pattern behind it, leave it open, and where an edge cuts it',
    matters: 'People who cannot make out a shape do not know that it is there.',
    measured:
      'The colours of the drawing and of the shape that carries it, or else of the screen, from the pixels of the capture.',
    errs: 'Drawings of several colours, patterns behind them, edges that cut them and pictures with losses leave it open. How far it can be believed is in docs/accuracy.md.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Icon(Icons.Default.Close, null, tint = MaterialTheme.colorScheme.onSurface)',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'Image(systemName: "xmark").foregroundStyle(.primary)',
      },
    ],
  },
});

const kindOf = ({ cell, element }: IconContrastFact): string => `${cell.screen}|${cell.theme}|${element.key}`;

function judgeIcon(icon: SeenIconFact, limits: Pick<Limits, 'iconContrast'>): Assertion<Data> {
  const { background, cell, foreground, interval, ratio } = icon;
  const required = limits.iconContrast;
  if (interval[0] >= required && !icon.doubtful) return { outcome: 'passed', cell };
  // of what an edge cuts, what is left may be something else
  const measured = interval[1] < required && !icon.doubtful && !icon.cutBy;
  const suggested = suggestColours(parseHex(foreground)!, parseHex(background)!, required);
  const draft = elementDraft<Data>(icon, {
    basis: measured ? 'measured' : 'estimated',
    severity: required - ratio,
    digest: `${roundColour(foreground)} on ${roundColour(background)}`,
    aspect: cell.theme,
    data: {
      ratio,
      lowest: interval[0],
      highest: interval[1],
      required,
      foreground,
      background,
      theme: cell.theme,
      ...(icon.packed && { packed: true }),
      ...(icon.cutBy && { cutBy: icon.cutBy }),
      ...(suggested.text && {
        suggestedIcon: suggested.text.colour,
        suggestedIconRatio: suggested.text.ratio,
      }),
    },
  });
  return { outcome: measured ? 'failed' : 'cantTell', cell, draft };
}
