/** WCAG 2.2, 1.1.1 Non-text Content: a picture with a meaning has words for it, and one that only decorates has none. */

import { z } from 'zod';
import type { PictureFact } from '../../../model/facts/looks.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';

const dataSchema = z.strictObject({
  fault: z.enum(['no-name', 'read-twice']),
  name: z.string(),
  widthDp: z.number(),
  heightDp: z.number(),
});
type Data = z.infer<typeof dataSchema>;

// An icon beside a text repeats it as a rule; what is larger than a touch target tells something of its own.
const LARGE_DP = 64;

export const unnamedPicture = defineCheck({
  id: 'unnamed-picture',
  area: 'accessibility',
  priority: 'cannot-use',
  standard: 'WCAG 2.2, 1.1.1 Non-text Content',
  basis: 'estimated',
  needs: 'capture',
  reads: ['picture'],
  data: dataSchema,
  words: ({ fault, heightDp, name, widthDp }, { identity }) =>
    fault === 'read-twice'
      ? {
          what: `A picture says again what stands beside it: ${quote(name)}`,
          measured: `its name is the text beside it, ${quote(name)}`,
          required: 'no name for a picture that only decorates (WCAG 2.2, 1.1.1)',
          why: 'A reader says the same words twice.',
          remedy: 'Mark it as decoration, or say what it shows besides.',
        }
      : {
          what: `A picture has no name: ${identity.subject}`,
          measured: `${Math.round(widthDp)} × ${Math.round(heightDp)} dp, and a reader passes it by`,
          required: 'a name for a picture with a meaning; none where it only decorates (WCAG 2.2, 1.1.1)',
          why: 'A chart, a map or a photo with a meaning is not there at all for who does not see it.',
          remedy: 'Give it words that say what it shows. If it only decorates, mark this as a false alarm.',
        },

  *run(facts): Iterable<Assertion<Data>> {
    for (const picture of facts.of('picture')) {
      const { cell, heightDp, name, widthDp } = picture;
      if (!picture.isDrawn) {
        yield { outcome: 'inapplicable', cell };
        continue;
      }
      const fault = faultOf(picture);
      if (!fault) yield { outcome: 'passed', cell };
      else
        yield {
          outcome: 'cantTell',
          cell,
          draft: elementDraft<Data>(picture, {
            basis: 'estimated',
            severity: fault === 'no-name' ? widthDp * heightDp : 1,
            digest: fault === 'no-name' ? 'no name' : name,
            aspect: fault,
            data: { fault, name, widthDp, heightDp },
          }),
        };
    }
  },

  doc: {
    looksAt:
      'Pictures that cannot be touched, and are not inside something that can be: their name, their size, the texts beside and over them',
    against:
      'A name where they are larger than 64 dp or stand alone, and no texts lie over them; and a name that is not the text beside it',
    matters: 'What has no name is not there for a reader; what says nothing new wears its listener out.',
    measured: 'The name in the tree, and the boxes. Areas of one colour are left out.',
    errs: 'Whether a picture has a meaning is not to be measured: a person rules on it, once for all screens. Small ones beside a text are taken for decoration.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Image(chart, contentDescription = stringResource(R.string.tide_chart_spoken))  // null: it only decorates',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'Image("tide-chart").accessibilityLabel(Text("High water at 14:20"))\nImage(decorative: "waves")',
      },
    ],
  },
});

function faultOf({
  beside,
  heightDp,
  isHidden,
  name,
  over,
  widthDp,
}: PictureFact): Data['fault'] | undefined {
  const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();
  if (isHidden) return undefined;
  if (name) return beside.some((text) => same(text, name)) ? 'read-twice' : undefined;
  const isLarge = Math.min(widthDp, heightDp) >= LARGE_DP;
  return over === 0 && (isLarge || beside.length === 0) ? 'no-name' : undefined;
}
