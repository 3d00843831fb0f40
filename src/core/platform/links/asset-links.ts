/** Statements of a site about apps (Digital Asset Links, *Statement list*; Android developers, *Verify App Links*). */
import type { AssetStatement } from '../../model/site-file.ts';

const HANDLES_LINKS = 'delegate_permission/common.handle_all_urls';

/** Fingerprints under which the site lets an app open its links; undefined where it does not name the app. */
export function fingerprintsFor(statements: readonly AssetStatement[], appId: string): string[] | undefined {
  const own = statements.filter(
    ({ relation, target }) =>
      relation.includes(HANDLES_LINKS) &&
      target?.namespace === 'android_app' &&
      target.package_name === appId,
  );
  if (own.length === 0) return undefined;
  return own.flatMap(({ target }) => target?.sha256_cert_fingerprints ?? []);
}

/** 32 bytes in capital hex digits with colons between them. */
export const isFingerprint = (text: string): boolean => /^[0-9A-F]{2}(:[0-9A-F]{2}){31}$/.test(text);

/** `c9b5…` as the statements write it: `C9:B5:…`. */
export const formatFingerprint = (sha256: string): string =>
  sha256
    .toUpperCase()
    .replaceAll(':', '')
    .replace(/(..)(?=.)/g, '$1:');
