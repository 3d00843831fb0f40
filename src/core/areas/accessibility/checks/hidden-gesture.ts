/** What a long press or a swipe does is offered as a named action too (WCAG 2.2, 2.5.1; switch and voice users have no gestures). */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { departed, passed, reachedStops, untested } from '../stops.ts';

const dataSchema = z.strictObject({
  gestures: z.array(z.string()),
  actions: z.array(z.string()),
  platform: z.enum(['android', 'ios']),
});
type Data = z.infer<typeof dataSchema>;

export const hiddenGesture = defineCheck({
  id: 'hidden-gesture',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 2.5.1 Pointer Gestures',
  basis: 'measured',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ actions, gestures, platform }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} hides something behind a ${gestures.join(' and a ')}`,
    measured: `${gestures.length} such gestures, ${actions.length} named actions`,
    required: 'a named action for each (WCAG 2.2, 2.5.1)',
    why: 'Switch and voice users have no gestures; what only a gesture does is lost to them.',
    remedy: `Offer it as a named action: ${platform === 'ios' ? 'accessibilityCustomActions' : 'addAccessibilityAction, or customActions in Compose semantics'}.`,
  }),

  *run(facts) {
    for (const stop of reachedStops(facts)) if (stop.actionable) yield judgeStop(stop);
  },

  doc: {
    looksAt: 'What has a long press or a swipe',
    against: 'A named action for each. Needs captures that carry actions and gestures',
    matters: 'Who uses a switch, a keyboard or the voice has no long press and no swipe.',
    measured: 'The gestures that an element has against its named actions.',
    errs: 'Only captures that carry actions and gestures can show it (docs/captures.md). Dumps of the operating system carry long presses alone.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: `Modifier.semantics {
    customActions = listOf(CustomAccessibilityAction(removeLabel) { onRemove(); true })
}`,
      },
      {
        where: 'iOS, UIKit',
        language: 'swift',
        code: `cell.accessibilityCustomActions = [
    UIAccessibilityCustomAction(name: removeLabel) { _ in self.remove(); return true }
]`,
      },
    ],
  },
});

function judgeStop(stop: StopFact): Assertion<Data> {
  const { actions, longPress, swipeable } = stop;
  // a dump reports long presses, but neither swipes nor named actions
  if (!actions) return untested(stop, longPress ? 'actions' : 'gestures');
  const gestures = [...(longPress ? ['long press'] : []), ...(swipeable ? ['swipe'] : [])];
  if (gestures.length === 0 && swipeable === undefined) return untested(stop, 'gestures');
  if (gestures.length === 0 || actions.length >= gestures.length) return passed(stop);
  return departed(stop, {
    basis: 'measured',
    severity: gestures.length - actions.length,
    digest: `${gestures.join(' ')} | ${actions.join(' ')}`,
    data: { gestures, actions, platform: stop.platform },
  });
}
