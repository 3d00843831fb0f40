/** Under larger display size, bold text, high-contrast text or without animations, every text stays whole. */

import { z } from 'zod';
import type { Cell } from '../../../model/cell.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { counterpartName, pairScreens, type ScreenPair, seenScreens } from '../pairs/compare-pair.ts';
import { harmSchema, harmWords, ROOM } from '../pairs/harm-words.ts';
import { judgeTexts } from '../pairs/judge-pair.ts';

/** Procedures whose captures are counterparts of those taken `as-is`. */
const SETTINGS: readonly string[] = ['display-large', 'bold-text', 'high-contrast-text', 'animations-off'];

const thinSchema = z.strictObject({ harm: z.literal('as-thin'), counterpart: z.string(), gain: z.number() });
const dataSchema = z.union([harmSchema, thinSchema]);
type Data = z.infer<typeof dataSchema>;

export const displaySetting = defineCheck({
  id: 'display-setting',
  area: 'accessibility',
  priority: 'harder',
  standard: 'Android and iOS accessibility settings; WCAG 2.2, 1.4.4 Resize Text',
  basis: 'either',
  needs: 'capture',
  reads: ['screen-text', 'text-contrast'],
  data: dataSchema,
  words: (data, { occurrences: [first] }) =>
    data.harm === 'as-thin'
      ? {
          what: 'Bold text has no effect here',
          measured: `strokes are ${data.gain.toFixed(2)} times as wide as without it`,
          required: 'wider strokes',
          why: `Held against ${data.counterpart}. If the app reads the setting only when it starts, it was not restarted in between.`,
          remedy: "Use the system's text styles, or read the setting.",
        }
      : harmWords(data, `with ${first!.cell!.procedure.replaceAll('-', ' ')}`, 'text that stays whole', ROOM),

  *run(facts, intent) {
    for (const pair of pairScreens(facts.once(seenScreens, intent), asIs)) {
      yield* judgeTexts(pair);
      if (pair.after.capture.cell.procedure === 'bold-text') yield judgeWeight(pair);
    }
  },

  doc: {
    looksAt:
      'Captures of the procedures `display-large`, `bold-text`, `high-contrast-text`, `animations-off`',
    against: 'The same screen as it is. That bold text has no effect is estimated',
    matters: 'People who need larger or bolder letters turn the setting on once, for every app.',
    measured:
      'Each text of the screen as it is and under the setting is compared, there, whole, apart from others; for bold text also the width of its strokes.',
    errs: 'An app that reads a setting only at its start must be restarted between the two captures. That bold text has no effect is estimated.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Text(title, style = MaterialTheme.typography.titleMedium)  // no fixed height around it',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'Text(title).font(.headline)  // a text style follows Bold Text and Dynamic Type',
      },
    ],
  },
});

const asIs = (cell: Cell): Cell | undefined =>
  SETTINGS.includes(cell.procedure) ? { ...cell, procedure: 'as-is' } : undefined;

const LEAST_WEIGHT_GAIN = 1.05;

/** Bold text makes strokes wider; where not one text has them, the setting is not followed. */
function judgeWeight(pair: ScreenPair): Assertion<Data> {
  const { after, before } = pair;
  const { cell } = after.capture;
  const gains = [...before.inks].flatMap(([key, thin]) => {
    const thick = after.inks.get(key);
    return !thick || thin.unseen || thick.unseen || thin.stemDp === 0 ? [] : [thick.stemDp / thin.stemDp];
  });
  const first = [...after.inks.values()][0];
  if (gains.length === 0 || !first) return { outcome: 'inapplicable', cell };
  const median = [...gains].sort((a, b) => a - b)[gains.length >> 1]!;
  if (median >= LEAST_WEIGHT_GAIN) return { outcome: 'passed', cell };
  const draft = elementDraft<Data>(first, {
    basis: 'estimated',
    severity: 1,
    digest: 'as thin as before',
    aspect: 'weight',
    data: { harm: 'as-thin', counterpart: counterpartName(pair), gain: median },
  });
  return {
    outcome: 'cantTell',
    cell,
    draft: { ...draft, identity: { screen: cell.screen, subject: 'screen', aspect: 'weight' } },
  };
}
