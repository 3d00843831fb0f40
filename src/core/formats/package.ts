/** Any app package: told apart by what is in it, read into the one model. */
import { type PackagePart, packageParts } from '../model/app-package.ts';
import type { ByteSource, Ports } from '../model/ports.ts';
import { attempt, type Result, UnreadableError, unwrap } from '../model/problem.ts';
import type { ReadOptions } from './android/android-package.ts';
import { APK_MANIFEST, type OpenedAndroid, openApk } from './android/apk.ts';
import type { OpenedPackage } from './opened-package.ts';
import { openZip, type Zip } from './zip.ts';

export type { OpenedPackage } from './opened-package.ts';

/**
 * Reads what an APK, a bundle or an iOS package declares.
 *
 * @param digest SHA-256 of the whole file, lower-case hex; may still be on its way
 * @param options which parts: all of them, unless it says otherwise
 * @returns the app as the checks see it, and the opened archive
 */
export function readPackage(
  file: string,
  source: ByteSource,
  digest: string | Promise<string>,
  ports: Ports,
  options: ReadOptions = {},
): Promise<Result<OpenedPackage>> {
  return attempt(file, async () => {
    const declared = await readDeclared(file, source, digest, ports, options);
    const texts: PackagePart[] = options.texts === false ? ['texts'] : [];
    if (options.parts === 'declared') {
      const others = packageParts.filter((part) => part !== 'texts');
      return { ...declared, app: { ...declared.app, leftOut: [...texts, ...others] } };
    }
    const { readParts } = await import('./package-parts.ts');
    const opened = { ...declared, app: { ...declared.app, leftOut: texts } };
    return { ...opened, app: await readParts(opened, options.catalogues ?? []) };
  });
}

async function readDeclared(
  file: string,
  source: ByteSource,
  digest: string | Promise<string>,
  ports: Ports,
  options: ReadOptions,
): Promise<OpenedPackage> {
  const zip = unwrap(await openZip(file, source, ports));
  if (zip.entries.has(APK_MANIFEST)) return opened(await openApk(zip, source, digest, ports, options));
  if (zip.entries.has(BASE_MANIFEST)) {
    // the other forms are loaded only where they are met: most packages are APKs
    const { openBundle } = await import('./android/aab.ts');
    return opened(await openBundle(zip, digest, ports, options));
  }
  const bundle = findAppBundle(zip);
  if (bundle) {
    const { openIpa } = await import('./apple/ipa.ts');
    return { app: await openIpa(zip, bundle, await digest, ports), zip };
  }
  throw noPackage(zip);
}

const BASE_MANIFEST = 'base/manifest/AndroidManifest.xml';
const BUNDLE_INFO = /^(Payload\/[^/]+\.app\/)Info\.plist$/;

/** The folder of the app bundle, with its slash, where the archive is an iOS package. */
const findAppBundle = (zip: Zip): string | undefined =>
  [...zip.entries.keys()].map((name) => BUNDLE_INFO.exec(name)?.[1]).find(Boolean);

const opened = (android: OpenedAndroid): OpenedPackage => ({ app: android.app, zip: android.zip, android });

function noPackage(zip: Zip): UnreadableError {
  const names = [...zip.entries.keys()];
  const found = names.includes('toc.pb')
    ? 'a set of APKs, as it is made from a bundle'
    : names.some((name) => name.endsWith('.apk'))
      ? 'an archive of packages'
      : 'a zip archive without AndroidManifest.xml, base/manifest or Payload/*.app';
  return new UnreadableError({
    code: 'package.none',
    found,
    expected: 'an APK, a bundle (AAB) or an iOS package (IPA)',
    remedy: 'Give the package that the build put out, such as app-release.apk.',
  });
}
