/** What can be tapped, and what neither a reader nor a switch comes to (WCAG 2.2, 2.1.1). */

import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { departed, passed } from '../stops.ts';

const dataSchema = z.strictObject({
  shutInBy: z.enum(['element', 'hidden']),
  platform: z.enum(['android', 'ios']),
});

export const unreachableControl = defineCheck({
  id: 'unreachable-control',
  area: 'accessibility',
  priority: 'cannot-use',
  standard: 'WCAG 2.2, 2.1.1 Keyboard',
  basis: 'measured',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ platform, shutInBy }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} can be tapped, but not reached by a reader or a switch`,
    measured:
      shutInBy === 'hidden'
        ? 'it is hidden from assistive technology'
        : 'it lies inside an accessible element, which speaks for all that is in it',
    required: 'every action within reach (WCAG 2.2, 2.1.1)',
    why: 'Who cannot see or touch the screen does not learn that it is there.',
    remedy:
      platform === 'ios'
        ? 'Make the container no accessible element, or offer the action as one of its custom actions.'
        : 'Take the container out of hiding, or offer the action on it.',
  }),

  *run(facts) {
    for (const stop of facts.of('stop')) {
      if (!stop.actionable) continue;
      if (!stop.shutInBy) yield passed(stop);
      else
        yield departed(stop, {
          basis: 'measured',
          severity: 1,
          digest: stop.shutInBy,
          data: { shutInBy: stop.shutInBy, platform: stop.platform },
        });
    }
  },

  doc: {
    looksAt: 'What can be acted on and is hidden, or inside an accessible element on iOS',
    against: 'WCAG 2.2, 2.1.1: within reach',
    matters: 'Who cannot see or touch the screen does not learn that it is there.',
    measured:
      'What can be tapped and is hidden from assistive technology, or lies inside an element that speaks for all that is in it.',
    errs: 'An action that the outer element offers as one of its own is not seen in dumps that carry no actions.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: '<LinearLayout android:importantForAccessibility="auto" />  <!-- not noHideDescendants -->',
      },
      {
        where: 'iOS, UIKit',
        language: 'swift',
        code: 'row.isAccessibilityElement = false  // its parts are reached one by one',
      },
    ],
  },
});
