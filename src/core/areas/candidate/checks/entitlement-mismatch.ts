/**
 * What the executable is signed to be allowed must be within what the profile allows, or the device refuses to
 * install it (Apple, *TN3125: Inside Code Signing: Provisioning Profiles*). The signed ones are those that count.
 */

import { z } from 'zod';
import type { PlistValue } from '../../../model/app-package.ts';
import type { EntitlementFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';

// Capabilities that a profile carries because the team switched them on: signed without them, they are off.
const CAPABILITIES = new Set(['aps-environment', 'com.apple.developer.associated-domains']);

const dataSchema = z.strictObject({
  key: z.string(),
  kind: z.string(),
  signed: z.string(),
  profile: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const entitlementMismatch = defineCheck({
  id: 'entitlement-mismatch',
  area: 'candidate',
  priority: 'cannot-ship',
  standard: 'Apple, TN3125: Inside Code Signing: Provisioning Profiles',
  basis: 'either',
  needs: 'package',
  reads: ['entitlement'],
  data: dataSchema,
  words: ({ key, kind, profile, signed }) => ({
    what:
      kind === 'not-signed'
        ? `The profile allows ${key}, but the app is not signed for it`
        : `The app is signed for ${key} in a way that its profile does not allow`,
    measured: kind === 'not-signed' ? 'not among the signed entitlements' : `signed ${quote(signed)}`,
    required:
      kind === 'not-allowed'
        ? 'nothing: the profile has no such entitlement'
        : `${quote(profile)}, as the profile says`,
    why:
      kind === 'not-signed'
        ? 'The signed entitlements are those that count: without it the capability is off, whatever the profile says.'
        : 'Devices refuse to install an app whose signature claims more than its profile allows.',
    remedy:
      kind === 'not-signed'
        ? `Add ${key} to the entitlements file of the release configuration, or switch the capability off for the app id.`
        : 'Make the profile again after changing the capability, then archive again.',
  }),

  *run(facts) {
    for (const fact of facts.of('entitlement')) yield judgeEntitlement(fact);
  },

  doc: {
    looksAt: 'The entitlements that the executable is signed for',
    against:
      'Those of its provisioning profile. Estimated where a capability of the profile is not signed for',
    matters:
      'A device refuses to install an app that claims more than its profile allows. A capability that is not signed for is silently off.',
    measured:
      "The entitlements of the executable's signature against those of the embedded profile, with wildcards.",
    errs: 'A capability of the profile that is not signed for may be meant, so that it is estimated.',
    fixes: [
      {
        where: 'Kelpline.entitlements',
        language: 'xml',
        code: '<key>aps-environment</key><string>production</string>',
      },
    ],
  },
});

function judgeEntitlement(fact: EntitlementFact): Assertion<Data> {
  const { evidence, key, profile, signed } = fact;
  if (!fact.hasProfile) return { outcome: 'inapplicable' };
  const of = (kind: string, outcome: 'failed' | 'cantTell'): Assertion<Data> => ({
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
