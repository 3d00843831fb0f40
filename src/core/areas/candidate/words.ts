import { type AreaWords, quote, textsOf } from '../words.ts';

export const candidateWords: AreaWords = {
  'nameless-build': ({ lacks }) => ({
    what: 'The package does not name its build',
    measured: `no ${(lacks as string[]).join(', no ')}`,
    required: 'a version, a build number and code',
    why: 'Evidence is bound to the build that it was seen on; without these, two builds cannot be told apart.',
    remedy: 'Set version and build number in the build, and give the package as it ships.',
  }),

  'unread-part': ({ expected, found, isCapture, isOdd, place, remedy }) => ({
    what: isCapture
      ? `Picture and tree of a capture do not belong together: ${place}`
      : isOdd
        ? `The package holds a part that no build tool writes so: ${place}`
        : `A part of the package could not be read: ${place}`,
    measured: String(found),
    required: String(expected) || (isOdd ? 'a name inside of the package' : 'a part that can be read'),
    why: isOdd
      ? 'Readers differ on such a part: one device or store may see another package than the one that was checked.'
      : 'What it would show is not known, so checks that look at it prove less than they seem to.',
    remedy: String(remedy) || 'Build the package again, or look at this part by hand and rule on it.',
  }),

  'debug-build': ({ marks, platform }) => {
    const said = textsOf(marks).map((mark) =>
      mark === 'testOnly'
        ? 'android:testOnly="true"'
        : platform === 'ios'
          ? 'entitlement get-task-allow'
          : 'android:debuggable="true"',
    );
    return {
      what: 'This is a debug build, not the one that ships',
      measured: said.join(', '),
      required: 'a release build',
      why: 'A debugger can attach to it, and anybody with the device can read its data. Stores refuse it, and what is measured on it may not hold for the release.',
      remedy:
        platform === 'ios'
          ? 'Archive with the Release configuration and sign with a distribution profile.'
          : 'Build the release variant, and leave both attributes to the build.',
    };
  },

  'release-signature': ({ flaw, found, platform }) => {
    const list = textsOf(found);
    return { ...SIGNATURE_FLAWS[String(flaw)]!(list, String(platform)) };
  },

  'implied-feature': ({ by, feature, what }) => ({
    what: `The store hides the app from devices without ${what}`,
    measured:
      feature === 'supports-screens'
        ? `<supports-screens> says ${by}`
        : `${String(by).replaceAll(', ', ' and ')} ${String(by).includes(',') ? 'ask' : 'asks'} for ${feature}, and no <uses-feature> says that it can do without`,
    required: 'only what the app cannot do without',
    why: 'Tablets, computers and televisions often lack it: their owners do not find the app, and nobody tells them why.',
    remedy:
      feature === 'supports-screens'
        ? 'Take the attribute away, unless the app cannot be used on such screens.'
        : `Add <uses-feature android:name="${feature}" android:required="false" />, unless the app is of no use without.`,
  }),

  'version-not-raised': ({ build, shippedBuild, shippedVersion, version }) =>
    shippedBuild
      ? {
          what: 'The version is not higher than that of the shipped build',
          measured: `${version} (${build})`,
          required: `above ${shippedVersion} (${shippedBuild}), as fenlok.yaml names the shipped build`,
          why: 'Stores refuse it, and devices do not install it over what they have.',
          remedy: `Raise the build number above ${shippedBuild}${shippedVersion === version ? '' : `, and keep the version at ${shippedVersion} or above`}.`,
        }
      : {
          what: 'Whether the version was raised cannot be told',
          measured: `${version} (${build})`,
          required: 'above the build that users have now',
          why: 'The intent file does not say which build was shipped before.',
          remedy: 'Write it under app.shipped in fenlok.yaml: version and build.',
        },

  'entitlement-mismatch': ({ key, kind, profile, signed }) => ({
    what:
      kind === 'not-signed'
        ? `The profile allows ${key}, but the app is not signed for it`
        : `The app is signed for ${key} in a way that its profile does not allow`,
    measured: kind === 'not-signed' ? 'not among the signed entitlements' : `signed ${quote(String(signed))}`,
    required:
      kind === 'not-allowed'
        ? 'nothing: the profile has no such entitlement'
        : `${quote(String(profile))}, as the profile says`,
    why:
      kind === 'not-signed'
        ? 'The signed entitlements are those that count: without it the capability is off, whatever the profile says.'
        : 'Devices refuse to install an app whose signature claims more than its profile allows.',
    remedy:
      kind === 'not-signed'
        ? `Add ${key} to the entitlements file of the release configuration, or switch the capability off for the app id.`
        : 'Make the profile anew after changing the capability, then archive again.',
  }),
};

type FlawWords = (
  found: string[],
  platform: string,
) => Record<'what' | 'measured' | 'required' | 'why' | 'remedy', string>;

// As many departures as fit on a line or two; the package names the rest with `fenlok read`.
const some = (found: string[]): string =>
  found.slice(0, 4).join('; ') + (found.length > 4 ? `; and ${found.length - 4} more` : '');

const SIGNATURE_FLAWS: Record<string, FlawWords> = {
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
    remedy: 'Make the profile anew with the certificate that signs.',
  }),
};
