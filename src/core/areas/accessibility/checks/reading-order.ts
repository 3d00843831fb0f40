/** WCAG 2.2, 1.3.2 Meaningful Sequence: a reader goes down the screen, and along each row. */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import type { Box } from '../../../model/geometry.ts';
import { isRightToLeft } from '../../../model/locale.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';
import { stopsByScreen } from '../stops.ts';

const dataSchema = z.strictObject({
  name: z.string(),
  /** What is read just before it. */
  before: z.string(),
  jump: z.enum(['up', 'back']),
});
type Data = z.infer<typeof dataSchema>;

export const readingOrder = defineCheck({
  id: 'reading-order',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.3.2 Meaningful Sequence',
  basis: 'estimated',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ before, jump, name }) => ({
    what: `${quote(name)} is read after ${quote(before)}, which stands ${jump === 'up' ? 'below it' : 'behind it in the same row'}`,
    measured: jump === 'up' ? 'from there the reader jumps up' : 'from there the reader jumps back',
    required: 'the order in which the screen is meant to be read (WCAG 2.2, 1.3.2)',
    why: 'Whoever listens gets the parts of the screen out of their order, and misses what belongs together.',
    remedy:
      'Bring the views into reading order, or say what comes after what. If the order is meant so, mark it as a false alarm.',
  }),

  *run(facts) {
    for (const stops of stopsByScreen(facts)) {
      const sorted = [...stops].sort((a, b) => a.order - b.order);
      for (const [i, stop] of sorted.entries()) {
        const before = sorted[i - 1];
        if (before) yield judgeStep(before, stop);
      }
    }
  },

  doc: {
    looksAt: 'The places of stops that a reader meets one after the other, on every capture',
    against:
      'Down the screen, and along each row in the direction of the language. A jump up into a column that begins beside is not one. Always estimated, since how a screen is meant to be read cannot be seen',
    matters: 'A price that is read before the name of what it belongs to is heard with the wrong thing.',
    measured:
      'Where each stop and the one before it stand, from the tree. What lies within the other, or over it, is left out.',
    errs: 'A bar that is meant to be read first or last, and drawings with labels about them, are taken for jumps.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Modifier.semantics { isTraversalGroup = true; traversalIndex = 1f }',
      },
      {
        where: 'Android, views',
        language: 'xml',
        code: '<TextView android:accessibilityTraversalAfter="@id/title" />',
      },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'title.accessibilitySortPriority(1)' },
    ],
  },
});

function judgeStep(before: StopFact, stop: StopFact): Assertion<Data> {
  const { cell } = stop;
  const rtl = isRightToLeft(cell.locale);
  const jump = jumpBetween(before.element.boundsPx, stop.element.boundsPx, rtl);
  if (!jump) return { outcome: 'passed', cell };
  const data = { name: stop.name || stop.element.key, before: before.name || before.element.key, jump };
  return {
    outcome: 'cantTell',
    cell,
    draft: elementDraft<Data>(stop, {
      basis: 'estimated',
      severity: jump === 'up' ? 2 : 1,
      digest: `${jump} from ${before.element.key}`,
      cause: jump,
      aspect: rtl ? 'right to left' : 'left to right',
      data,
    }),
  };
}

/** Rows of a text and its button overlap a little less than wholly. */
const SAME_ROW = 0.5;

function jumpBetween(from: Box, to: Box, rtl: boolean): Data['jump'] | undefined {
  const [a, b] = [endsOf(from), endsOf(to)];
  const across = Math.min(a.right, b.right) - Math.max(a.left, b.left);
  // another column may begin at the top again
  if (b.bottom <= a.top) return across > 0 ? 'up' : undefined;
  const down = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
  const isRow = down >= SAME_ROW * Math.min(from.height, to.height);
  if (!isRow || across > 0) return undefined;
  return (rtl ? b.left >= a.right : b.right <= a.left) ? 'back' : undefined;
}

const endsOf = ({ height, width, x, y }: Box) => ({ left: x, right: x + width, top: y, bottom: y + height });
