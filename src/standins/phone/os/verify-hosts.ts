/**
 * What the phone asks of sites when an app is installed, and what becomes of it (Android developers, *Verify App
 * Links*). The stand-in is told what the sites serve; nothing is fetched.
 */
import type { OpenedPackage } from '../../../core/formats/package.ts';
import type { Component } from '../../../core/model/app-package.ts';

/** What is served at `https://HOST/.well-known/assetlinks.json`, by host: the body, or the response with its head. */
export type Sites = ReadonlyMap<string, string>;

/** As `pm get-app-links` prints it: 1024 is the first code of its own that a verifier gives for a failure. */
const REFUSED = '1024';

export function verifyHosts({ app }: OpenedPackage, sites: Sites): Map<string, string> {
  const [certificate] = app.signing.certificates;
  const components = app.android?.manifest.components ?? [];
  const hosts = components.flatMap(hostsToVerify);
  return new Map(
    hosts.map((host) => {
      const served = sites.get(host.replace(/^\*\./, ''));
      const agrees = served !== undefined && isNamed(served, app.build.appId, certificate?.sha256 ?? '');
      return [host, agrees ? 'verified' : REFUSED] as const;
    }),
  );
}

const WEB = ['http', 'https'];

const hostsToVerify = ({ filters }: Component): string[] =>
  filters
    .filter(
      ({ actions, autoVerify, categories, schemes }) =>
        autoVerify &&
        actions.includes('android.intent.action.VIEW') &&
        ['android.intent.category.BROWSABLE', 'android.intent.category.DEFAULT'].every((one) =>
          categories.includes(one),
        ) &&
        schemes.every((scheme) => WEB.includes(scheme)),
    )
    .flatMap(({ authorities }) => authorities.map(({ host }) => host));

interface Statement {
  relation?: string[];
  target?: { package_name?: string; sha256_cert_fingerprints?: string[] };
}

function isNamed(served: string, appId: string, sha256: string): boolean {
  const [head, ...rest] = served.startsWith('HTTP/') ? served.split(/\r?\n\r?\n/) : ['', served];
  if (head && (!/^HTTP\/[\d.]+ 200/.test(head) || !/^content-type:\s*application\/json/im.test(head)))
    return false;
  const fingerprint = sha256.toUpperCase().match(/../g)?.join(':') ?? '';
  try {
    const statements = JSON.parse(rest.join('\n\n')) as Statement[];
    return statements.some(
      ({ relation, target }) =>
        relation?.includes('delegate_permission/common.handle_all_urls') &&
        target?.package_name === appId &&
        target.sha256_cert_fingerprints?.includes(fingerprint),
    );
  } catch {
    return false;
  }
}
