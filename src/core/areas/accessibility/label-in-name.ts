/** WCAG 2.2, 2.5.3 Label in Name: what is written on a control is part of its name, so that it can be said. */
import type { StopFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';
import { spokenForm } from './spoken-form.ts';
import { departed, passed, reachedStops } from './stops.ts';

export const labelInName = {
  id: 'label-in-name',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    for (const stop of reachedStops(facts))
      if (stop.actionable && stop.nameFrom === 'label' && stop.drawn.some(isSpeakable)) yield judgeStop(stop);
  },
} satisfies Check;

/** Symbols and single letters are no label that anyone would say. */
const isSpeakable = (text: string): boolean => spokenForm(text).length > 1;

function judgeStop(stop: StopFact): Assertion {
  // a value that is spoken as such is no label
  const said = [stop.name, ...stop.states].map((part) => ` ${spokenForm(part)} `);
  const drawn = stop.drawn.filter(isSpeakable);
  const missing = drawn.filter((text) => !said.some((part) => part.includes(` ${spokenForm(text)} `)));
  if (missing.length === 0) return passed(stop);
  // of several texts one is the label and the others tell more; which, is for a person to say
  const basis = missing.length === drawn.length ? 'measured' : 'estimated';
  return departed(stop, {
    basis,
    severity: missing.length / drawn.length,
    digest: `${stop.name} | ${missing.join(' | ')}`,
    cause: 'written otherwise',
    data: { name: stop.name, missing, written: drawn },
  });
}
