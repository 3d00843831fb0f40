/** Whether the package is signed as a release is (Android Open Source Project, *Application signing*; Apple, *TN3125*). */
import type { PackageFact, SigningFact } from '../../model/fact.ts';
import { sayLevels } from '../../platform/android/platform-levels.ts';
import type { Assertion, Check } from '../check.ts';

// From this target on, Android 11 and later refuse packages that only the v1 scheme signs.
const V2_DEMANDED_FROM_TARGET = 30;

// What Android's build tools make for each developer, and the key that the platform's sources publish for tests.
const DEBUG_SUBJECT = /\bCN=Android Debug\b/;
const PUBLISHED_TEST_KEY = 'a40da80a59d170caa950cf15c18c454d47a39b26989d8b640ecd745ba71bf5dc';

interface Flaw {
  flaw: string;
  estimated?: true;
  severity: number;
  /** What was found, for people. */
  found: string[];
}

export const releaseSignature = {
  id: 'release-signature',
  area: 'candidate',
  needs: ['package', 'signing'],
  *run(facts): Iterable<Assertion> {
    const [app] = facts.of('package');
    for (const signing of facts.of('signing')) {
      const flaws = app ? [...findFlaws(signing, app)] : [];
      if (flaws.length === 0) yield { outcome: 'passed' };
      for (const { estimated, flaw, found, severity } of flaws)
        yield {
          outcome: estimated ? 'cantTell' : 'failed',
          draft: {
            identity: { subject: 'signature', aspect: flaw },
            basis: estimated ? 'estimated' : 'measured',
            severity,
            digest: found.join('\n'),
            occurrence: {
              evidence: signing.evidence,
              shown: '',
              data: { flaw, found, platform: signing.platform },
            },
          },
        };
    }
  },
} satisfies Check;

/** Levels that the app says it runs on and that will not install it. */
function* findRefusals(refused: NonNullable<SigningFact['refused']>): Generator<Flaw> {
  const say = (stretch: (typeof refused)[number]) => sayLevels(stretch.from, stretch.until);
  const unsigned = refused.filter(({ codes }) => codes.includes('signature.none'));
  const others = refused.filter(({ codes }) => !codes.some((code) => SAID_ELSEWHERE.has(code)));
  if (unsigned.length > 0) yield { flaw: 'levels-without-scheme', severity: 4, found: unsigned.map(say) };
  if (others.length > 0)
    yield {
      flaw: 'levels-refuse',
      severity: 4,
      found: others.map((stretch) => `${say(stretch)}: ${stretch.problems[0]}`),
    };
}

/** Of iOS: who vouches for the signer, and the code inside, which devices look at one by one. */
function* findAppleFlaws({ anchor, badParts = [], foreignParts = [] }: SigningFact): Generator<Flaw> {
  if (anchor?.is === 'own') yield { flaw: 'not-apples', severity: 4, found: [anchor.subject] };
  if (anchor?.is === 'open')
    yield { flaw: 'open-chain', estimated: true, severity: 1, found: [anchor.subject] };
  if (badParts.length > 0)
    yield {
      flaw: 'parts-broken',
      severity: 5,
      found: badParts.map(({ path, problems }) => `${path}: ${problems[0]}`),
    };
  if (foreignParts.length > 0)
    yield {
      flaw: 'parts-of-others',
      severity: 4,
      found: foreignParts.map(({ appTeam, path, team }) => `${path}: team ${team}, the app's is ${appTeam}`),
    };
}

const SAID_ELSEWHERE = new Set(['signature.none', 'signature.v1-only']);

function* findFlaws(signing: SigningFact, app: PackageFact): Generator<Flaw> {
  const { certificates, profile, refused = [], refusedEverywhere, schemes } = signing;
  const broken = schemes.filter(({ outcome }) => outcome === 'broken');
  const isTakenSomewhere = refusedEverywhere === false;
  if (schemes.length === 0) yield { flaw: 'unsigned', severity: 5, found: [] };
  else if (isTakenSomewhere) yield* findRefusals(refused);
  else if (broken.length > 0)
    yield { flaw: 'broken', severity: 5, found: [...new Set(broken.flatMap(({ problems }) => problems))] };
  const testKeys = certificates.filter(
    ({ sha256, subject }) => DEBUG_SUBJECT.test(subject) || sha256 === PUBLISHED_TEST_KEY,
  );
  if (testKeys.length > 0)
    yield { flaw: 'test-key', severity: 4, found: testKeys.map(({ subject }) => subject) };
  if (app.container === 'apk' && schemes.length > 0 && schemes.every(({ scheme }) => scheme === 'v1'))
    yield (app.targetSdk ?? 1) >= V2_DEMANDED_FROM_TARGET
      ? { flaw: 'v1-only', severity: 4, found: [String(app.targetSdk)] }
      : { flaw: 'v1-only', estimated: true, severity: 1, found: [String(app.targetSdk ?? '')] };
  yield* findAppleFlaws(signing);
  if (!profile) return;
  if (!profile.signed) yield { flaw: 'profile-broken', severity: 4, found: [profile.name] };
  if (profile.kind === 'development')
    yield { flaw: 'development-profile', severity: 4, found: [profile.name] };
  if (profile.kind === 'ad-hoc')
    yield { flaw: 'ad-hoc-profile', estimated: true, severity: 1, found: [profile.name] };
  const [signer] = certificates;
  if (signer && profile.certificateDigests.length > 0 && !profile.certificateDigests.includes(signer.sha256))
    yield { flaw: 'signer-not-in-profile', severity: 3, found: [signer.subject] };
}
