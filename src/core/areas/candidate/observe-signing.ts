import type { SigningFact } from '../../model/fact.ts';
import type { PackageObserver } from '../observer.ts';

/** Which schemes the package is signed by, and whether they hold. */
export const observeSigning = {
  id: 'signing',
  version: 1,
  reads: 'package',
  *observe({ app, digest }) {
    const { certificates, schemes } = app.signing;
    const profile = app.ios?.profile;
    yield {
      kind: 'signing',
      platform: app.platform,
      evidence: digest,
      schemes: schemes.map(({ outcome, problems, scheme }) => ({
        scheme,
        outcome,
        problems: problems.map(({ found, place }) => (place ? `${place}: ${found}` : found)),
      })),
      certificates: certificates.map(({ sha256, subject }) => ({ sha256, subject })),
      ...(profile && {
        profile: {
          name: profile.name,
          kind: profile.kind,
          certificateDigests: profile.certificateDigests,
          signed: profile.signed,
        },
      }),
    } satisfies SigningFact;
  },
} satisfies PackageObserver;
