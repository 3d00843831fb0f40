/**
 * What the executable is signed to be allowed must be within what the profile allows, or the device refuses to
 * install it (Apple, *TN3125: Inside Code Signing: Provisioning Profiles*). The signed ones are those that count.
 */
import type { PlistValue } from '../../model/app-package.ts';
import type { EntitlementFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';

// Capabilities that a profile carries because the team switched them on: signed without them, they are off.
const CAPABILITIES = new Set(['aps-environment', 'com.apple.developer.associated-domains']);

export const entitlementMismatch = {
  id: 'entitlement-mismatch',
  area: 'candidate',
  needs: ['package', 'entitlement'],
  *run(facts) {
    for (const fact of facts.of('entitlement')) yield judgeEntitlement(fact);
  },
} satisfies Check;

function judgeEntitlement(fact: EntitlementFact): Assertion {
  const { evidence, key, profile, signed } = fact;
  if (!fact.hasProfile) return { outcome: 'inapplicable' };
  const of = (kind: string, outcome: 'failed' | 'cantTell'): Assertion => ({
    outcome,
    draft: {
      identity: { subject: key },
      basis: outcome === 'failed' ? 'measured' : 'estimated',
      severity: outcome === 'failed' ? 2 : 1,
      digest: `${say(signed)} against ${say(profile)}`,
      occurrence: { evidence, shown: key, data: { key, kind, signed: say(signed), profile: say(profile) } },
    },
  });
  if (signed === undefined)
    return CAPABILITIES.has(key) ? of('not-signed', 'cantTell') : { outcome: 'inapplicable' };
  if (profile === undefined) return of('not-allowed', 'failed');
  return isAllowed(signed, profile) ? { outcome: 'passed' } : of('differs', 'failed');
}

/** Every value signed must be allowed; `*` stands for anything, also at the end of an identifier. */
function isAllowed(signed: PlistValue, profile: PlistValue): boolean {
  const allowed = Array.isArray(profile) ? profile : [profile];
  return (Array.isArray(signed) ? signed : [signed]).every((value) =>
    allowed.some((pattern) =>
      typeof pattern === 'string' && pattern.endsWith('*')
        ? String(value).startsWith(pattern.slice(0, -1))
        : pattern === value || (value === false && pattern === true),
    ),
  );
}

function say(value: PlistValue | undefined): string {
  if (value === undefined) return '';
  return Array.isArray(value)
    ? value.map(say).join(', ')
    : typeof value === 'object'
      ? JSON.stringify(value)
      : String(value);
}
