import type { SigningFact } from '../../model/fact.ts';
import type { Problem } from '../../model/problem.ts';
import type { PackageObserver } from '../observer.ts';

const say = ({ found, place }: Problem): string => (place ? `${place}: ${found}` : found);

/** Which schemes the package is signed by, and whether they hold. */
export const observeSigning = {
  id: 'signing',
  version: 2,
  reads: 'package',
  *observe({ app, digest }) {
    const { certificates, levels = [], schemes } = app.signing;
    const refused = levels.filter(({ problems }) => problems.length > 0);
    const profile = app.ios?.profile;
    yield {
      kind: 'signing',
      platform: app.platform,
      evidence: digest,
      schemes: schemes.map(({ outcome, problems, scheme }) => ({
        scheme,
        outcome,
        problems: problems.map(say),
      })),
      ...(levels.length > 0 && { refusedEverywhere: refused.length === levels.length }),
      ...(refused.length > 0 && {
        refused: refused.map(({ from, problems, until }) => ({
          from,
          ...(until !== undefined && { until }),
          codes: [...new Set(problems.map(({ code }) => code))],
          problems: problems.map(say),
        })),
      }),
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
