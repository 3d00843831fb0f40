/** Facts of a dossier: each piece of evidence is observed once, and kept until an observer or the decoder changes. */
import { join } from 'node:path';
import {
  catalogueObservers,
  listingObservers,
  logObservers,
  payloadObservers,
  reviewsObservers,
  saleObservers,
  siteObservers,
  symbolsObservers,
  traceObservers,
} from '../core/areas/observers-by-evidence.ts';
import { factsOfPackage } from '../core/checklist/facts-of-package.ts';
import { namedSyntax } from '../core/formats/catalogues/named-syntax.ts';
import { readCatalogue } from '../core/formats/catalogues/read-catalogue.ts';
import { readPushPayload } from '../core/formats/push-payload.ts';
import type { Fact } from '../core/model/fact.ts';
import type { Intent } from '../core/model/intent.ts';
import type { CatalogueSyntax } from '../core/model/intent-parts.ts';
import { type Part, partOf } from '../core/model/part.ts';
import { unwrap } from '../core/model/problem.ts';
import { cachedFacts } from './cached-facts.ts';
import { CAPTURES_AT_ONCE } from './capture-pool.ts';
import { listCaptures, observeCapture } from './captures.ts';
import { changedEvidence } from './changed-evidence.ts';
import {
  type Dossier,
  type EvidenceEntry,
  listCatalogues,
  listTraces,
  readCatalogueFiles,
  readTrace,
} from './dossier.ts';
import { evidenceKey } from './evidence-keys.ts';
import { listListings, openListing } from './listings.ts';
import { listLogs, openLog } from './logs.ts';
import type { NamedFile } from './named-evidence.ts';
import { listPayloads, readPayloadBytes } from './payloads.ts';
import { withPackage } from './read-package.ts';
import { listReviews, openReviews } from './reviews.ts';
import { listSales, openSale } from './sales.ts';
import { listSiteFiles, openSiteFile } from './site-files.ts';
import { type KeptSymbols, listSymbols, SymbolFiles } from './symbols.ts';

interface ObserveOptions {
  onProgress?: (done: number, total: number) => void;
  signal?: AbortSignal;
  /** Only this part of the evidence, so that several machines share the work; what it measures is kept. */
  part?: Part;
}

/** Reads facts that are kept, observes what is new, and tells how far it has come. */
export async function observeDossier(
  dossier: Dossier,
  { catalogues: named }: Pick<Intent, 'catalogues'>,
  { onProgress = () => {}, part, signal }: ObserveOptions = {},
): Promise<Fact[]> {
  const captures = await listCaptures(dossier);
  const catalogues = await listCatalogues(dossier);
  const sites = await listSiteFiles(dossier);
  const payloads = await listPayloads(dossier);
  const sales = await listSales(dossier);
  const listings = await listListings(dossier);
  const reviews = await listReviews(dossier);
  const symbols = await listSymbols(dossier);
  const logs = await listLogs(dossier);
  const names = new SymbolFiles(
    dossier,
    symbols.map((of) => of.symbols),
  );
  const traces = await listTraces(dossier);
  const all = [
    () => observePackage(dossier, named),
    ...catalogues.map((entry) => () => observeCatalogue(dossier, entry, named)),
    ...sites.map((entry) => () => observeSite(dossier, entry)),
    ...payloads.map((entry) => () => observePayload(dossier, entry)),
    ...sales.map((entry) => () => observeSale(dossier, entry)),
    ...listings.map((entry) => () => observeListing(dossier, entry)),
    ...reviews.map((entry) => () => observeReviews(dossier, entry)),
    ...symbols.map((one) => async () => observeSymbols(dossier, one)),
    ...logs.map((entry) => () => observeLog(dossier, entry, names)),
    ...traces.map((entry) => () => observeTrace(dossier, entry, names)),
    ...captures.map((entry) => () => observeCapture(dossier, entry)),
  ];
  const pieces = part ? partOf(all, part) : all;
  const facts: Fact[][] = [];
  let done = 0;
  let next = 0;
  const work = async () => {
    while (next < pieces.length) {
      signal?.throwIfAborted();
      const i = next++;
      facts[i] = await pieces[i]!();
      onProgress(++done, pieces.length);
    }
  };
  await Promise.all(Array.from({ length: CAPTURES_AT_ONCE }, work));
  return facts.flat();
}

function observePackage(dossier: Dossier, named: readonly CatalogueSyntax[]): Promise<Fact[]> {
  const { digest, file } = dossier.candidate.package;
  const path = join(dossier.folder, file);
  return cachedFacts(dossier, digest, [evidenceKey('package'), ...named.map(formatRow)].join('; '), () =>
    withPackage(
      path,
      ({ app }) => {
        if (app.digest !== digest) throw changedEvidence(path);
        return factsOfPackage(app);
      },
      { catalogues: named },
    ),
  );
}

const formatRow = ({ files, syntax }: CatalogueSyntax): string => `${files} ${syntax}`;

/** All that the observers measure on a package, with no dossier. @throws UnreadableError */
export const factsOfPackageFile = (
  path: string,
  catalogues: readonly CatalogueSyntax[] = [],
): Promise<Fact[]> => withPackage(path, ({ app }) => factsOfPackage(app), { catalogues });

function observeTrace(dossier: Dossier, entry: EvidenceEntry, names: SymbolFiles): Promise<Fact[]> {
  const key = [evidenceKey('trace'), ...(names.key ? [names.key] : [])].join('; ');
  return cachedFacts(dossier, entry.digest, key, async () => {
    const evidence = {
      digest: entry.digest,
      platform: dossier.candidate.platform,
      lines: await names.nameTrace(await readTrace(entry)),
    };
    return traceObservers.flatMap((observer) => [...observer.observe(evidence)]);
  });
}

function observeSite(dossier: Dossier, entry: EvidenceEntry): Promise<Fact[]> {
  return cachedFacts(dossier, entry.digest, evidenceKey('site'), async () => {
    const evidence = {
      digest: entry.digest,
      platform: dossier.candidate.platform,
      site: await openSiteFile(entry.file),
    };
    return siteObservers.flatMap((observer) => [...observer.observe(evidence)]);
  });
}

function observePayload(dossier: Dossier, entry: EvidenceEntry & NamedFile): Promise<Fact[]> {
  return cachedFacts(dossier, entry.digest, evidenceKey('payload'), async () => {
    const payload = readPushPayload(entry.file, await readPayloadBytes(entry.file));
    const { digest } = entry;
    const evidence = { digest, platform: dossier.candidate.platform, name: entry.name, payload };
    return payloadObservers.flatMap((observer) => [...observer.observe(evidence)]);
  });
}

function observeSale(dossier: Dossier, entry: EvidenceEntry & NamedFile): Promise<Fact[]> {
  return cachedFacts(dossier, entry.digest, evidenceKey('sale'), async () => {
    const evidence = {
      digest: entry.digest,
      platform: dossier.candidate.platform,
      ...(await openSale(entry)),
    };
    return saleObservers.flatMap((observer) => [...observer.observe(evidence)]);
  });
}

function observeListing(dossier: Dossier, entry: EvidenceEntry & NamedFile): Promise<Fact[]> {
  return cachedFacts(dossier, entry.digest, evidenceKey('listing'), async () => {
    const { listing, pictures } = await openListing(entry);
    const { digest, name } = entry;
    const evidence = { digest, platform: dossier.candidate.platform, name, listing, pictures };
    return listingObservers.flatMap((observer) => [...observer.observe(evidence)]);
  });
}

function observeReviews(dossier: Dossier, entry: EvidenceEntry & NamedFile): Promise<Fact[]> {
  return cachedFacts(dossier, entry.digest, evidenceKey('reviews'), async () => {
    const { digest, name } = entry;
    const { platform } = dossier.candidate;
    const evidence = { digest, platform, name, reviews: await openReviews(entry) };
    return reviewsObservers.flatMap((observer) => [...observer.observe(evidence)]);
  });
}

/** There is nothing to measure that would be worth keeping. */
function observeSymbols({ candidate }: Dossier, { name, symbols }: KeptSymbols): Fact[] {
  const evidence = { digest: symbols.sha256, platform: candidate.platform, name, symbols };
  return symbolsObservers.flatMap((observer) => [...observer.observe(evidence)]);
}

function observeLog(dossier: Dossier, entry: EvidenceEntry & NamedFile, names: SymbolFiles): Promise<Fact[]> {
  return cachedFacts(dossier, entry.digest, [evidenceKey('log'), names.key].join('; '), async () => {
    const { digest, name } = entry;
    const log = await names.name(await openLog(entry));
    const { build, platform } = dossier.candidate;
    const evidence = { digest, platform, name, appId: build.appId, log };
    return logObservers.flatMap((observer) => [...observer.observe(evidence)]);
  });
}

async function observeCatalogue(
  dossier: Dossier,
  entry: EvidenceEntry,
  named: readonly CatalogueSyntax[],
): Promise<Fact[]> {
  const { bytes, settings } = await readCatalogueFiles(entry.file);
  const syntax = namedSyntax(settings.path, named);
  const key = [evidenceKey('catalogue'), ...(syntax ? [syntax] : [])].join('; ');
  return cachedFacts(dossier, entry.digest, key, async () => {
    const catalogue = unwrap(await readCatalogue(settings.path, bytes, syntax));
    const evidence = {
      digest: entry.digest,
      platform: dossier.candidate.platform,
      name: settings.name,
      file: settings.path,
      catalogue,
    };
    return catalogueObservers.flatMap((observer) => [...observer.observe(evidence)]);
  });
}
