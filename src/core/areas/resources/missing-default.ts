import type { AskedBy } from '../../model/app-package.ts';
import type { Assertion, Check } from '../check.ts';
import { configsOf, type Situation } from './devices.ts';
import { type PickedResource, pickedResources } from './picks.ts';

/**
 * Every listed device finds a form of every resource that something asks for. Where the manifest or another resource
 * asks, the app fails there; where code alone asks, it may do so on other devices only; where nothing does, nobody misses it.
 */
export const missingDefault = {
  id: 'missing-default',
  area: 'resources',
  needs: ['package', 'varied-resource'],
  *run(facts, intent) {
    for (const picked of facts.once(pickedResources, intent)) yield judge(picked);
  },
} satisfies Check;

function judge({ fact, picks }: PickedResource): Assertion {
  const lacking = picks.filter(({ form }) => !form).map(({ situation }) => situation);
  const { askedBy = [{ kind: 'code' }] } = fact;
  const certain = askedBy.filter(({ kind }) => kind !== 'code');
  const asked = lacking.flatMap((situation) => {
    const asker = certain.find((of) => asksOn(of, situation));
    return asker ? [{ situation, asker }] : [];
  });
  const byCode = askedBy.some(({ kind }) => kind === 'code');
  if (lacking.length === 0 || (asked.length === 0 && !byCode)) return { outcome: 'passed' };
  const measured = asked.length > 0;
  const { asker, situation } = asked[0] ?? { asker: { kind: 'code' } as const, situation: lacking[0]! };
  const missing = measured ? asked.length : lacking.length;
  const qualifiers = fact.forms.map((form) => form.qualifiers);
  return {
    outcome: measured ? 'failed' : 'cantTell',
    draft: {
      identity: { subject: fact.name },
      basis: measured ? 'measured' : 'estimated',
      severity: missing / picks.length,
      digest: qualifiers.join(' '),
      occurrence: {
        evidence: fact.evidence,
        shown: fact.name,
        data: {
          forms: qualifiers,
          missing,
          of: picks.length,
          device: situation.device.name,
          level: situation.target.sdkVersion,
          locale: situation.locale,
          night: situation.night,
          asker: asker.kind === 'resource' ? asker.name : asker.kind,
        },
      },
    },
  };
}

/** A layout for wide screens alone asks for what wide screens alone have. */
function asksOn(asker: AskedBy, { pick }: Situation): boolean {
  if (asker.kind !== 'resource') return asker.kind === 'manifest';
  const chosen = pick({ configs: () => configsOf(asker.forms.map((qualifiers) => ({ qualifiers }))) });
  return chosen !== undefined && asker.asking.includes(chosen);
}
