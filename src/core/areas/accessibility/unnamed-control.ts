/** WCAG 2.2, success criterion 4.1.2 Name, Role, Value: whatever can be acted on has a name. */
import type { StopFact } from '../../model/fact.ts';
import { type Assertion, type Check, elementDraft } from '../check.ts';

export const unnamedControl = {
  id: 'unnamed-control',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    for (const stop of facts.of('stop')) if (stop.actionable) yield judgeStop(stop);
  },
} satisfies Check;

function judgeStop(stop: StopFact): Assertion {
  if (stop.nameFrom !== 'none') return { outcome: 'passed', cell: stop.cell };
  const draft = elementDraft(stop, {
    basis: 'measured',
    severity: 1,
    digest: `no name, ${stop.element.className}`,
    data: { className: stop.element.className, platform: stop.platform },
  });
  return { outcome: 'failed', cell: stop.cell, draft };
}
