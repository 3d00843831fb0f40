/** A name that says nothing to a person: that of a file or of a resource, or of the element's own role. */
import type { StopFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';
import { roleWords } from './role-words.ts';
import { departed, passed, reachedStops, spokenForm } from './stops.ts';

export const meaninglessName = {
  id: 'meaningless-name',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    for (const stop of reachedStops(facts))
      if (stop.nameFrom === 'label' || stop.nameFrom === 'text') yield judgeName(stop);
  },
} satisfies Check;

function judgeName(stop: StopFact): Assertion {
  const kind = kindOf(stop);
  if (!kind) return passed(stop);
  return departed(stop, {
    basis: 'measured',
    severity: stop.actionable ? 2 : 1,
    digest: stop.name,
    data: { name: stop.name, kind, role: stop.roles[0] ?? '' },
  });
}

const FILE = /^[\w-]+\.(png|jpe?g|webp|gif|svg|pdf|heic|avif)$/i;
// Two words at least, joined as identifiers are; a single word may be meant.
const IDENTIFIER =
  /^(R\.(drawable|id|string)\.\w+|[a-z0-9]+(_[a-z0-9]+)+|(ic|img|btn|icon|image|button)[-_.]\w+)$/i;

function kindOf({ element, name, roles }: StopFact): 'file' | 'identifier' | 'role' | undefined {
  if (FILE.test(name)) return 'file';
  if (IDENTIFIER.test(name) || (name === element.key && /[_.]/.test(name))) return 'identifier';
  const words = spokenForm(name);
  return roles.some((role) => roleWords(role).includes(words)) ? 'role' : undefined;
}
