/** The file by which a site agrees that an app may have its links, with the app's statement in it. */
import { applyEdits, modify } from 'jsonc-parser';
import { indexFacts } from '../areas/check.ts';
import { declaredLinks } from '../areas/links/declared-links.ts';
import { readSiteFile, siteFilePlace } from '../formats/site-file.ts';
import type { Fact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { NoPatch, Patch, SourceFile } from '../model/patch.ts';
import { formatFingerprint } from '../platform/links/asset-links.ts';
import { troubleWith } from './judge-again.ts';

export const canPatchSite = (check: string): boolean => check === 'unverified-domain';

const RELATION = 'delegate_permission/common.handle_all_urls';

/**
 * @param finding of `unverified-domain`
 * @param files every `assetlinks.json` under the source, each in a folder that is named as its host
 * @param facts of the candidate
 */
export function patchSite(
  finding: Finding,
  files: readonly SourceFile[],
  facts: readonly Fact[],
  intent: Intent,
): Patch | NoPatch {
  const { host, why } = finding.occurrences[0]!.data as { host: string; why: string };
  if (why !== 'other-app' && why !== 'other-certificate')
    return { why: `what ${host} serves has to be put right on the server, or in the manifest` };
  const { candidate } = declaredLinks(indexFacts(facts), intent);
  const prints = candidate?.android?.certificates.map(formatFingerprint) ?? [];
  if (!candidate || prints.length === 0)
    return { why: 'the certificate that the installed app is signed with is not known' };
  const places = files.flatMap((file) => {
    const place = siteFilePlace(file.path);
    return place?.host === host ? [{ file, place }] : [];
  });
  const [found, ...others] = places;
  if (!found || others.length > 0)
    return {
      why: found
        ? `${host} has ${places.map(({ file }) => file.path).join(' and ')}`
        : `no ${host}/.well-known/assetlinks.json lies under the source`,
    };
  const { file, place } = found;
  const read = (text: string) => readSiteFile(file.path, new TextEncoder().encode(text), place);
  const { statements } = read(file.text);
  if (!statements) return { why: `${file.path} cannot be read as statements` };
  // a response that was saved with its head
  const head = /^(?:HTTP\/[\s\S]*?\r?\n\r?\n)*/.exec(file.text)![0];
  const after = head + withPrints(file.text.slice(head.length), statements, candidate.appId, prints);
  const factsAfter = facts.map((fact) =>
    fact.kind === 'site-file' && fact.site.host === host && fact.site.kind === place.kind
      ? { ...fact, site: { ...read(after), ...(fact.site.response && { response: fact.site.response }) } }
      : fact,
  );
  const trouble = troubleWith(finding.id, { before: facts, after: factsAfter, kinds: ['site-file'] }, intent);
  if (trouble) return { why: trouble };
  return {
    edits: [{ path: file.path, before: file.text, after }],
    facts: factsAfter,
    says: `${host} agrees to ${candidate.appId} with ${prints.map((print) => `${print.slice(0, 11)}…`).join(', ')}`,
    proof:
      'read again, it lets this app have the links. Where a store signs the app again, the fingerprint has to be that of the store (links.certificates in fenlok.yaml).',
  };
}

/** In the statement of that app where there is one, else in one of its own behind the others. */
function withPrints(
  text: string,
  statements: NonNullable<ReturnType<typeof readSiteFile>['statements']>,
  appId: string,
  prints: readonly string[],
): string {
  const formattingOptions = {
    insertSpaces: !/\n\t/.test(text),
    tabSize: /\n( +)/.exec(text)?.[1]?.length ?? 2,
    eol: text.includes('\r\n') ? '\r\n' : '\n',
  };
  const at = statements.findIndex(
    ({ relation, target }) => target?.package_name === appId && relation?.includes(RELATION),
  );
  const statement = {
    relation: [RELATION],
    target: { namespace: 'android_app', package_name: appId, sha256_cert_fingerprints: prints },
  };
  const there = statements[at]?.target?.sha256_cert_fingerprints ?? [];
  const inserts: [(string | number)[], unknown][] =
    at < 0
      ? [[[statements.length], statement]]
      : prints
          .filter((print) => !there.some((one) => one.toUpperCase() === print))
          .map((print) => [[at, 'target', 'sha256_cert_fingerprints', -1], print]);
  return inserts.reduce(
    (changed, [path, value]) =>
      applyEdits(changed, modify(changed, path, value, { formattingOptions, isArrayInsertion: true })),
    text,
  );
}
