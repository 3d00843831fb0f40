/**
 * JAR signing, the v1 scheme (Java SE 17, *JAR File Specification*, Signed JAR file):
 * MANIFEST.MF holds a digest of each entry, NAME.SF digests of the manifest, NAME.RSA (or DSA, EC) signs NAME.SF.
 */
import type { SchemeCheck, Signer } from '../../model/app-package.ts';
import { type DigestAlgorithm, type Ports, sameBytes } from '../../model/ports.ts';
import { type Problem, UnreadableError } from '../../model/problem.ts';
import { fromBase64 } from '../base64.ts';
import { canInflateAll, type Zip } from '../zip.ts';
import { certificateView, type ParsedCertificate } from './certificate.ts';
import { parseSignedData, verifySignedData } from './cms.ts';

const MANIFEST = 'META-INF/MANIFEST.MF';
const SIGNATURE_FILE = /^META-INF\/([^/]+)\.SF$/i;
const BLOCK_FILE = /^META-INF\/([^/]+)\.(RSA|DSA|EC)$/i;
// What a report can hold of a package that was repacked as a whole.
const MAX_PROBLEMS = 20;
const MAX_TEXT_BYTES = 32 * 2 ** 20;
const MAX_BLOCK_BYTES = 2 ** 20;

// Attributes by strength; the first that is there counts.
const DIGESTS: [attribute: string, algorithm: DigestAlgorithm][] = [
  ['SHA-512', 'sha512'],
  ['SHA-384', 'sha384'],
  ['SHA-256', 'sha256'],
  ['SHA1', 'sha1'],
  ['SHA-1', 'sha1'],
];

export const hasJarSignature = (zip: Zip): boolean =>
  [...zip.entries.keys()].some((name) => SIGNATURE_FILE.test(name));

/**
 * @param newerSchemes of those in the signing block: a signature file that names one which is not there was stripped of it
 */
export async function verifyJarSignature(
  zip: Zip,
  ports: Ports,
  newerSchemes: readonly SchemeCheck[],
): Promise<SchemeCheck> {
  const problems: Problem[] = [];
  const signers: Signer[] = [];
  try {
    const manifest = await zip.read(MANIFEST, MAX_TEXT_BYTES);
    for (const name of zip.entries.keys()) {
      const base = SIGNATURE_FILE.exec(name)?.[1];
      if (!base) continue;
      const signed = await verifySignatureFile(zip, name, base, manifest, ports);
      problems.push(...signed.problems, ...strippedSchemes(signed.header, name, newerSchemes));
      const views = await Promise.all(signed.signers.map((signer) => certificateView(signer, ports)));
      signers.push(...views.map((certificate) => ({ certificates: [certificate] })));
    }
    problems.push(...(await verifyEntries(zip, parseSections(manifest), ports)));
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    problems.push(error.problem);
  }
  return {
    scheme: 'v1',
    outcome: problems.length > 0 ? 'broken' : 'verified',
    problems: problems.slice(0, MAX_PROBLEMS),
    signers,
  };
}

async function verifySignatureFile(
  zip: Zip,
  name: string,
  base: string,
  manifest: Uint8Array,
  ports: Ports,
): Promise<{ problems: Problem[]; signers: ParsedCertificate[]; header: Attributes }> {
  const bytes = await zip.read(name, MAX_TEXT_BYTES);
  const header = parseSections(bytes).main;
  const problems: Problem[] = [];
  const whole = digestOf(header, '-Digest-Manifest');
  if (!whole)
    problems.push(problem('manifest', name, 'no digest of the manifest by an algorithm that is known'));
  else if (!sameBytes(whole.digest, await ports.digest(whole.algorithm, manifest)))
    problems.push(problem('manifest', MANIFEST, 'a manifest that was changed after signing'));
  const block = [...zip.entries.keys()].find((entry) => BLOCK_FILE.exec(entry)?.[1] === base);
  if (!block)
    return { problems: [...problems, problem('block', name, 'no signature beside it')], signers: [], header };
  const verified = await verifySignedData(
    parseSignedData(await zip.read(block, MAX_BLOCK_BYTES), block),
    bytes,
    ports,
  );
  problems.push(...verified.problems.map((found) => problem('signature', block, found)));
  return { problems, signers: verified.signers, header };
}

/** `X-Android-APK-Signed: 2, 3` says which other schemes the package was signed by. */
function strippedSchemes(header: Attributes, name: string, newer: readonly SchemeCheck[]): Problem[] {
  return (header.get('X-Android-APK-Signed') ?? '')
    .split(',')
    .map((id) => id.trim())
    .filter((id) => /^[23]$/.test(id) && !newer.some(({ scheme }) => scheme === `v${id}`))
    .map((id) => problem('stripped', name, `no v${id} signature, though it says that there is one`));
}

async function verifyEntries(zip: Zip, manifest: Sections, ports: Ports): Promise<Problem[]> {
  if (!canInflateAll(zip)) return [problem('too-large', MANIFEST, 'more than can be checked entry by entry')];
  const problems: Problem[] = [];
  for (const name of zip.entries.keys()) {
    if (problems.length >= MAX_PROBLEMS) break;
    // the platform asks for no digest of anything in META-INF, which departs from the JAR specification
    if (name.endsWith('/') || name.startsWith('META-INF/')) continue;
    const expected = digestOf(manifest.entries.get(name) ?? new Map(), '-Digest');
    if (!expected) problems.push(problem('entry', `entry ${name}`, 'an entry that is not signed'));
    else {
      const bytes = await zip.read(name).catch((error: unknown) => {
        if (!(error instanceof UnreadableError)) throw error;
        problems.push(error.problem);
      });
      if (bytes && !sameBytes(expected.digest, await ports.digest(expected.algorithm, bytes)))
        problems.push(problem('entry', `entry ${name}`, 'an entry that was changed after signing'));
    }
  }
  for (const name of manifest.entries.keys())
    if (!zip.entries.has(name) && problems.length < MAX_PROBLEMS)
      problems.push(problem('entry', `entry ${name}`, 'a signed entry that is not there'));
  return problems;
}

const problem = (code: string, place: string, found: string): Problem => ({
  code: `signature.${code}`,
  place,
  found,
});

type Attributes = ReadonlyMap<string, string>;
interface Sections {
  main: Attributes;
  entries: ReadonlyMap<string, Attributes>;
}

/** Lines of at most 72 bytes; one that begins with a blank goes on from the line before. */
function parseSections(bytes: Uint8Array): Sections {
  const text = new TextDecoder().decode(bytes).replace(/\r?\n /g, '');
  const [main = '', ...rest] = text.split(/\r?\n\r?\n+|\n\n+/);
  const attributesOf = (section: string) =>
    new Map(
      section.split(/\r?\n/).flatMap((line): [string, string][] => {
        const colon = line.indexOf(': ');
        return colon > 0 ? [[line.slice(0, colon), line.slice(colon + 2)]] : [];
      }),
    );
  const entries = rest.map(attributesOf).flatMap((attributes): [string, Attributes][] => {
    const name = attributes.get('Name');
    return name === undefined ? [] : [[name, attributes]];
  });
  return { main: attributesOf(main), entries: new Map(entries) };
}

function digestOf(
  attributes: Attributes,
  suffix: string,
): { algorithm: DigestAlgorithm; digest: Uint8Array } | undefined {
  for (const [name, algorithm] of DIGESTS) {
    const value = attributes.get(`${name}${suffix}`);
    if (value) return { algorithm, digest: fromBase64(value) };
  }
  return undefined;
}
