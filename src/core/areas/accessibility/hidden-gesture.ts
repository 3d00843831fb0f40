/** What a long press or a swipe does is offered as a named action too (WCAG 2.2, 2.5.1; switch and voice users have no gestures). */
import type { StopFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';
import { departed, passed, reachedStops, untested } from './stops.ts';

export const hiddenGesture = {
  id: 'hidden-gesture',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    for (const stop of reachedStops(facts)) if (stop.actionable) yield judgeStop(stop);
  },
} satisfies Check;

function judgeStop(stop: StopFact): Assertion {
  const { actions, longPress, swipeable } = stop;
  // a dump tells of long presses, but neither of swipes nor of named actions
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
