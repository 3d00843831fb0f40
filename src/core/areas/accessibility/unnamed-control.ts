/** WCAG 2.2, 4.1.2: what can be acted on has a name, and what is an image has one or is hidden (1.1.1). */
import type { StopFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';
import { departed, passed, reachedStops, withoutLabels } from './stops.ts';

export const unnamedControl = {
  id: 'unnamed-control',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    const unknown: StopFact[] = [];
    for (const stop of reachedStops(facts)) {
      if (!(stop.actionable || (stop.isPicture && stop.traits) || stop.nameFrom === 'none')) continue;
      // its name may be a text beside it, which the OS's dump does not say
      if (stop.nameFrom === 'none' && stop.isField && !stop.knowsLabels) unknown.push(stop);
      else yield judgeStop(stop);
    }
    yield* withoutLabels(unknown);
  },
} satisfies Check;

function judgeStop(stop: StopFact): Assertion {
  if (stop.nameFrom !== 'none') return passed(stop);
  const { className } = stop.element;
  // what can only be focused may be a container that the OS's dump gives without what it says
  const isSure = (stop.actionable || stop.isPicture) && !stop.cutBy;
  return departed(stop, {
    basis: isSure ? 'measured' : 'estimated',
    severity: stop.actionable ? 2 : 1,
    digest: `no name, ${className}${stop.cutBy ? ', cut' : ''}`,
    data: {
      className,
      toolkit: stop.toolkit,
      isImage: !stop.actionable && stop.isPicture,
      cutBy: stop.cutBy ?? '',
      onlyFocused: !stop.actionable && !stop.isPicture,
    },
  });
}
