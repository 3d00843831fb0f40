/**
 * What a site serves at `/.well-known/`, and `app-ads.txt` at its root: either the file itself, or the whole response with its head, as a client that
 * prints heads saves it (RFC 9112, section 2). Of a chain of redirects every head may stand there.
 */
import { z } from 'zod';
import { UnreadableError } from '../model/problem.ts';
import {
  appLinksSchema,
  assetStatementsSchema,
  type SiteFile,
  type SiteResponse,
} from '../model/site-file.ts';
import { isFingerprint } from '../platform/links/asset-links.ts';
import { readAppAds } from './ads/app-ads.ts';

const NAMES: Record<string, SiteFile['kind']> = {
  'assetlinks.json': 'assetlinks',
  'apple-app-site-association': 'apple-app-site-association',
  'app-ads.txt': 'app-ads',
};

/** Apple developer documentation, *Supporting associated domains*: larger ones are not read. */
const APPLE_LIMIT_BYTES = 128 * 1024;
export const SITE_FILE_LIMIT_BYTES = 1024 * 1024;

/** Host and kind by the place where a file lies: `kelpline.example/.well-known/assetlinks.json`. */
export function siteFilePlace(path: string): Pick<SiteFile, 'host' | 'kind'> | undefined {
  const parts = path.split(/[/\\]/);
  const kind = NAMES[parts.at(-1) ?? ''];
  if (!kind) return undefined;
  const host = parts.at(parts.at(-2) === '.well-known' ? -3 : -2) ?? '';
  return /^[\w-]+(\.[\w-]+)+$/.test(host) ? { host: host.toLowerCase(), kind } : undefined;
}

/** @throws UnreadableError where it is larger than any that the platforms read; all else is told in `problems` */
export function readSiteFile(
  file: string,
  bytes: Uint8Array,
  place: Pick<SiteFile, 'host' | 'kind'>,
): SiteFile {
  if (bytes.length > SITE_FILE_LIMIT_BYTES) throw tooLargeSiteFile(file, bytes.length);
  const { body, response } = splitResponse(new TextDecoder().decode(bytes));
  const sizeBytes = new TextEncoder().encode(body).length;
  const read: SiteFile = { ...place, sizeBytes, ...(response && { response }), problems: [] };
  const problem = (code: string, found: string, expected: string, at?: string) =>
    read.problems.push({ code: `site.${code}`, file, found, expected, ...(at && { place: at }) });
  if (place.kind === 'apple-app-site-association' && sizeBytes > APPLE_LIMIT_BYTES) {
    problem('too-large', `${sizeBytes} bytes`, `at most ${APPLE_LIMIT_BYTES}`);
    return read;
  }
  if (place.kind === 'app-ads') {
    read.appAds = readAppAds(file, body);
    read.problems.push(...read.appAds.problems);
    return read;
  }
  const json = parseBody(body);
  if (json === undefined) {
    const isHtml = /^\s*</.test(body);
    problem('not-json', isHtml ? 'a page of HTML' : body.trim() === '' ? 'nothing' : 'no JSON', 'JSON');
  } else if (place.kind === 'assetlinks') {
    const parsed = assetStatementsSchema.safeParse(json);
    if (!parsed.success) problem('form', ...said(parsed.error));
    else read.statements = parsed.data;
    for (const { target } of parsed.data ?? [])
      for (const one of target?.sha256_cert_fingerprints ?? [])
        if (!isFingerprint(one))
          problem(
            'fingerprint',
            `“${one.slice(0, 100)}”`,
            '32 bytes in capital hex digits with colons between them',
            target?.package_name,
          );
  } else {
    const parsed = associationSchema.safeParse(json);
    if (!parsed.success) problem('form', ...said(parsed.error));
    else read.appLinks = parsed.data.applinks;
  }
  return read;
}

export const tooLargeSiteFile = (file: string, sizeBytes: number): UnreadableError =>
  new UnreadableError({
    code: 'site.too-large',
    file,
    found: `${sizeBytes} bytes`,
    expected: `at most ${SITE_FILE_LIMIT_BYTES}, and ${APPLE_LIMIT_BYTES} for iOS`,
    remedy: 'Serve the association alone; it needs a few lines.',
  });

const associationSchema = z.looseObject({ applinks: appLinksSchema });

const said = (error: z.ZodError): [found: string, expected: string, at: string] => {
  const issue = error.issues[0]!;
  return [issue.message, 'the form that the platform documents', issue.path.join('.')];
};

function parseBody(body: string): unknown {
  try {
    return JSON.parse(body.replace(/^\ufeff/, ''));
  } catch {
    return undefined;
  }
}

// A chain of redirects that is longer is not followed by anybody.
const MOST_HEADS = 20;

function splitResponse(text: string): { body: string; response?: SiteResponse } {
  let rest = text;
  let response: SiteResponse | undefined;
  let redirectedTo: string | undefined;
  for (let i = 0; i < MOST_HEADS && /^HTTP\/[\d.]+ \d{3}/.test(rest); i++) {
    const end = /\r?\n\r?\n/.exec(rest);
    const head = rest.slice(0, end?.index);
    rest = end ? rest.slice(end.index + end[0].length) : '';
    const status = Number(/ (\d{3})/.exec(head)![1]);
    const header = (name: string) => new RegExp(`^${name}:[ \\t]*(.*)$`, 'im').exec(head)?.[1]?.trim();
    if (status >= 300 && status < 400) redirectedTo ??= header('location') ?? 'another place';
    response = {
      status,
      contentType: header('content-type') ?? '',
      ...(redirectedTo !== undefined && { redirectedTo }),
    };
  }
  return { body: rest, ...(response && { response }) };
}
