/** Which schemes a package is signed by, and whether they hold, as the platform's installer looks at them. */
import type { SchemeCheck, Signing } from '../../model/app-package.ts';
import type { ByteSource, Ports } from '../../model/ports.ts';
import { type Problem, UnreadableError } from '../../model/problem.ts';
import { canInflateAll, type Zip } from '../zip.ts';
import { verifyBlock } from './block-signature.ts';
import { hasJarSignature, verifyJarSignature } from './jar-signature.ts';
import { readSigningBlock, type SigningBlock } from './signing-block.ts';

// Android 7 is the first that takes v2; from then on v1 is not looked at where a newer one is there.
const FIRST_SDK_OF_V2 = 24;

/**
 * Begins with what the signing block says, since that takes the longest; the rest follows when the manifest is read.
 *
 * @returns to be called with the lowest SDK level that the app runs on, as the manifest says
 */
export function beginVerification(
  zip: Zip,
  source: ByteSource,
  ports: Ports,
): (minSdk?: number) => Promise<Signing> {
  const ofBlock = verifySigningBlock(zip, source, ports);
  // what it rejects with is met where it is awaited, unless reading has failed before
  ofBlock.catch(() => {});
  return async (minSdk = 1) => {
    const schemes = await ofBlock;
    if (schemes.some(({ problems }) => problems.some(({ code }) => code === 'signature.digest')))
      await nameChangedEntries(zip, schemes);
    if (hasJarSignature(zip))
      schemes.push(
        minSdk < FIRST_SDK_OF_V2 || schemes.length === 0
          ? await verifyJarSignature(zip, ports, schemes)
          : { scheme: 'v1', outcome: 'unchecked', problems: [], signers: [] },
      );
    const signers = schemes.find((scheme) => scheme.signers.length > 0)?.signers ?? [];
    return { schemes, certificates: signers.flatMap(({ certificates }) => certificates.slice(0, 1)) };
  };
}

async function verifySigningBlock(zip: Zip, source: ByteSource, ports: Ports): Promise<SchemeCheck[]> {
  const broken: SchemeCheck[] = [];
  const block = await readBlock(zip, source, broken);
  if (!block) return broken;
  const { centralDirectoryOffset, endRecordOffset } = zip;
  return verifyBlock({ source, block, centralDirectoryOffset, endRecordOffset }, ports);
}

async function readBlock(
  zip: Zip,
  source: ByteSource,
  schemes: SchemeCheck[],
): Promise<SigningBlock | undefined> {
  try {
    return await readSigningBlock(source, zip.centralDirectoryOffset);
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    schemes.push({ scheme: 'v2', outcome: 'broken', problems: [error.problem], signers: [] });
    return undefined;
  }
}

/** The digests of the block cover the file as a whole; which entry departs, its own checksum tells. */
async function nameChangedEntries(zip: Zip, schemes: SchemeCheck[]): Promise<void> {
  if (!canInflateAll(zip)) return;
  const changed: Problem[] = [];
  for (const name of zip.entries.keys())
    await zip.read(name).catch((error: unknown) => {
      if (!(error instanceof UnreadableError)) throw error;
      if (changed.length < 20) changed.push(error.problem);
    });
  for (const scheme of schemes)
    if (scheme.problems.some(({ code }) => code === 'signature.digest')) scheme.problems.push(...changed);
}
