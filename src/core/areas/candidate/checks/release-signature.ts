/** Whether the package is signed as a release is (Android Open Source Project, *Application signing*; Apple, *TN3125*). */

import { z } from 'zod';
import type { PackageFact, SigningFact } from '../../../model/fact.ts';
import { formatLevels } from '../../../platform/android/platform-levels.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';

// From this target on, Android 11 and later refuse packages that only the v1 scheme signs.
const V2_DEMANDED_FROM_TARGET = 30;

// What Android's build tools make for each developer, and the key that the platform's sources publish for tests.
const DEBUG_SUBJECT = /\bCN=Android Debug\b/;
const PUBLISHED_TEST_KEY = 'a40da80a59d170caa950cf15c18c454d47a39b26989d8b640ecd745ba71bf5dc';

const flaws = [
  'unsigned',
  'broken',
  'levels-without-scheme',
  'levels-refuse',
  'test-key',
  'v1-only',
  'not-apples',
  'open-chain',
  'parts-broken',
  'parts-of-others',
  'profile-broken',
  'development-profile',
  'ad-hoc-profile',
  'signer-not-in-profile',
] as const;

interface Flaw {
  flaw: (typeof flaws)[number];
  estimated?: true;
  severity: number;
  /** What was found, for people. */
  found: string[];
}

const dataSchema = z.strictObject({
  flaw: z.enum(flaws),
  found: z.array(z.string()),
  platform: z.enum(['android', 'ios']),
});
type Data = z.infer<typeof dataSchema>;

export const releaseSignature = defineCheck({
  id: 'release-signature',
  area: 'candidate',
  priority: 'cannot-ship',
  standard: 'Android Open Source Project, Application signing; Apple, TN3125',
  basis: 'either',
  needs: 'package',
  reads: ['signing'],
  data: dataSchema,
  words: ({ flaw, found, platform }) => SIGNATURE_FLAWS[flaw](found, platform),

  *run(facts): Iterable<Assertion<Data>> {
    const [app] = facts.of('package');
    for (const signing of facts.of('signing')) {
      const found = app ? [...findFlaws(signing, app)] : [];
      if (found.length === 0) yield { outcome: 'passed' };
      for (const { estimated, flaw, found: said, severity } of found)
        yield {
          outcome: estimated ? 'cantTell' : 'failed',
          draft: {
            identity: { subject: 'signature', aspect: flaw },
            basis: estimated ? 'estimated' : 'measured',
            severity,
            digest: said.join('\n'),
            occurrence: {
              evidence: signing.evidence,
              shown: '',
              data: { flaw, found: said, platform: signing.platform },
            },
          },
        };
    }
  },

  doc: {
    looksAt: 'The signatures of every scheme, their certificates, the provisioning profile',
    against:
      'They hold on every platform level that the app runs on; not a test key, not v1 alone, not a development profile. Estimated for an ad-hoc profile, or v1 alone below target SDK 30',
    matters:
      'A package whose signature does not hold on some version of the system cannot be installed there. A test key lets anybody publish an update.',
    measured:
      "Every signature scheme of the package is verified as each platform level does it; on iOS the code signature, its chain up to Apple's roots, and the profile.",
    errs: 'An ad-hoc profile, and the oldest scheme alone below target SDK 30, may be meant, so that they are estimated. Revocation is not asked for.',
    fixes: [
      {
        where: 'Android, from a terminal',
        language: 'sh',
        code: 'apksigner sign --ks release.jks --min-sdk-version 24 app-release.apk',
      },
      {
        where: 'iOS, from a terminal',
        language: 'sh',
        code: 'xcodebuild -exportArchive -archivePath App.xcarchive -exportOptionsPlist store.plist -exportPath out',
      },
    ],
  },
});

/** Levels that the app says it runs on and that will not install it. */
function* findRefusals(refused: NonNullable<SigningFact['refused']>): Generator<Flaw> {
  const say = (stretch: (typeof refused)[number]) => formatLevels(stretch.from, stretch.until);
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

type FlawWords = (
  found: string[],
  platform: string,
) => Record<'what' | 'measured' | 'required' | 'why' | 'remedy', string>;

// As many as fit on a line or two; the package names the rest with `fenlok read`.
const some = (found: string[]): string =>
  found.slice(0, 4).join('; ') + (found.length > 4 ? `; and ${found.length - 4} more` : '');

const SIGNATURE_FLAWS: Record<Flaw['flaw'], FlawWords> = {
  unsigned: () => ({
    what: 'The package is not signed',
    measured: 'no signature of any scheme',
    required: 'a signature with the key that the app ships with',
    why: 'No device installs it as it is.',
    remedy: 'Sign it as your release is signed, and give that file.',
  }),
  broken: (found, platform) => ({
    what: 'The signature does not hold',
    measured: some(found),
    required: 'contents as they were signed',
    why: `The package was changed after it was signed, or badly signed: ${platform === 'ios' ? 'devices' : 'Android'} will not install it.`,
    remedy: 'Build and sign it again, and change nothing afterwards.',
  }),
  'levels-without-scheme': (found) => ({
    what: 'Some versions of Android that it runs on find no signature that they know',
    measured: found.join('; '),
    required:
      'a scheme that each level from minSdkVersion on knows: v1 below level 24, v2 from 24, v3 from 28',
    why: 'They will not install it, though the store offers it to them.',
    remedy:
      'Switch on the scheme that these levels know in the signing configuration, or raise minSdkVersion above them.',
  }),
  'levels-refuse': (found) => ({
    what: 'Some versions of Android that it runs on refuse the signature',
    measured: some(found),
    required: 'a signature that every level from minSdkVersion on takes',
    why: 'They will not install it, though newer ones do.',
    remedy:
      'Sign it again with apksigner and your minSdkVersion, so that it picks what all of them take, or raise minSdkVersion.',
  }),
  'test-key': (found) => ({
    what: 'It is signed with a key for tests',
    measured: some(found),
    required: 'the release key, or the upload key of your store account',
    why: 'Stores refuse it; anybody can sign with a key that is published or made on each machine.',
    remedy: 'Sign the release with its own key.',
  }),
  'v1-only': ([target = '']) => ({
    what: 'Only the oldest signature scheme (v1) is used',
    measured: `v1 alone, target SDK ${target || 'not set'}`,
    required: 'v2 or later (Android 11 asks it of apps for SDK 30 and later)',
    why: 'v1 does not cover the archive as a whole, so bytes can be added without breaking it.',
    remedy: 'Sign with apksigner, or leave signing to the build, with v2 and v3 switched on.',
  }),
  'not-apples': ([subject = '']) => ({
    what: 'It is signed with a certificate that Apple did not issue',
    measured: `its certificates lead to ${subject}`,
    required: "certificates that lead to one of Apple's roots",
    why: 'No device installs it, and the store takes no such upload.',
    remedy: 'Sign it with the distribution certificate of your team.',
  }),
  'open-chain': ([subject = '']) => ({
    what: 'Whether Apple issued the signing certificate cannot be told',
    measured: `the signature ends at ${subject}, without the certificate of its issuer`,
    required: "certificates that lead to one of Apple's roots",
    why: 'A device that does not know the issuer refuses the app.',
    remedy:
      "Install Apple's intermediate certificates on the machine that signs, and export the archive again.",
  }),
  'parts-broken': (found) => ({
    what: `The signature of ${found.length === 1 ? 'a part' : `${found.length} parts`} inside the app does not hold`,
    measured: some(found),
    required: 'each framework and extension as it was signed',
    why: 'Devices look at the signature of each: they refuse the app, or end it when the part is loaded.',
    remedy: 'Let the build embed and sign it (Embed & Sign), and change nothing afterwards.',
  }),
  'parts-of-others': (found) => ({
    what: `${found.length === 1 ? 'A part' : `${found.length} parts`} inside the app ${found.length === 1 ? 'is' : 'are'} signed by another team`,
    measured: some(found),
    required: 'the team of the app',
    why: 'iOS loads no code into an app that another team has signed.',
    remedy: 'Let the build sign it again when it embeds it (Embed & Sign).',
  }),
  'profile-broken': ([name = '']) => ({
    what: 'The signature of the provisioning profile does not hold',
    measured: quote(name),
    required: 'the profile as it was downloaded',
    why: 'Devices refuse an app whose profile was changed.',
    remedy: 'Download the profile again, and archive again.',
  }),
  'development-profile': ([name = '']) => ({
    what: 'It is signed for development',
    measured: `profile ${quote(name)}, which lets a debugger attach`,
    required: 'a distribution profile',
    why: 'Stores refuse it, and only the devices in the profile can install it.',
    remedy: 'Export the archive for the store.',
  }),
  'ad-hoc-profile': ([name = '']) => ({
    what: 'It is signed for named devices only (ad hoc)',
    measured: `profile ${quote(name)}`,
    required: 'a store profile, when this is the file that ships',
    why: 'Good for testers; the store takes the same archive exported for it.',
    remedy: 'Give the package that is exported for the store, or rule that this one stands for it.',
  }),
  'signer-not-in-profile': ([subject = '']) => ({
    what: 'The signing certificate is not one of the profile',
    measured: subject,
    required: 'a certificate that the profile lists',
    why: 'Devices refuse an app that is signed by somebody whom its profile does not name.',
    remedy: 'Make the profile again with the certificate that signs.',
  }),
};
