/** WCAG 2.2, success criterion 1.4.11 Non-text Contrast: 3 to 1 for what is needed to understand a graphic or a control. */
import type { IconContrastFact, SeenIconFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import { type Assertion, type Check, elementDraft } from '../check.ts';
import { parseHex } from './colour.ts';
import { roundColour } from './round-colour.ts';
import { suggestColours } from './suggest-colour.ts';

export const iconContrast = {
  id: 'icon-contrast',
  area: 'contrast',
  needs: ['capture', 'icon-contrast'],
  *run(facts, intent) {
    for (const { behindCount, cell } of facts.of('capture'))
      if (behindCount) yield { outcome: 'inapplicable', cell, count: behindCount };
    const icons = facts.of('icon-contrast');
    // what the edge leaves of a row is decided by a row of its kind that can be seen
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
          draft: elementDraft(icon, {
            basis: 'estimated',
            severity: 0,
            digest: icon.unseen,
            aspect: cell.theme,
            data: { unseen: icon.unseen, theme: cell.theme },
          }),
        };
      else yield judgeIcon(icon, intent.limits);
    }
  },
} satisfies Check;

const kindOf = ({ cell, element }: IconContrastFact): string => `${cell.screen}|${cell.theme}|${element.key}`;

function judgeIcon(icon: SeenIconFact, limits: Intent['limits']): Assertion {
  const { background, cell, foreground, interval, ratio } = icon;
  const required = limits.iconContrast;
  if (interval[0] >= required && !icon.packed) return { outcome: 'passed', cell };
  // of what an edge cuts, what is left may be something else
  const measured = interval[1] < required && !icon.packed && !icon.cutBy;
  const suggested = suggestColours(parseHex(foreground)!, parseHex(background)!, required);
  const draft = elementDraft(icon, {
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
