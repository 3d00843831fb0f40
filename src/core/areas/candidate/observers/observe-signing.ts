import type { SigningFact } from '../../../model/fact.ts';
import type { Problem } from '../../../model/problem.ts';
import type { PackageObserver } from '../../observer.ts';

const say = ({ found, place }: Problem): string => (place ? `${place}: ${found}` : found);

/** The place as seen from the part itself, which is named beside it. */
const formatInside = ({ found, place = '' }: Problem, path: string): string => {
  const at = place.indexOf(`${path}/`);
  return say({ code: '', found, place: at < 0 ? place : place.slice(at + path.length + 1) });
};

/** Which schemes the package is signed by, and whether they hold. */
export const observeSigning = {
  id: 'signing',
  reads: 'package',
  *observe({ app, digest }) {
    const { certificates, levels = [], schemes } = app.signing;
    const refused = levels.filter(({ problems }) => problems.length > 0);
    const { parts = [], profile, team = '' } = app.ios ?? {};
    const badParts = parts.filter(({ signature }) => signature.outcome === 'broken');
    const foreignParts = parts.filter((part) => team && part.team && part.team !== team);
    const anchor = schemes.find((scheme) => scheme.anchor)?.anchor;
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
      ...(anchor && { anchor }),
      ...(badParts.length > 0 && {
        badParts: badParts.map(({ path, signature }) => ({
          path,
          problems: signature.problems.map((problem) => formatInside(problem, path)),
        })),
      }),
      ...(foreignParts.length > 0 && {
        foreignParts: foreignParts.map((part) => ({ path: part.path, team: part.team, appTeam: team })),
      }),
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
