/** v3.1 and rotation, which Debian's signer does not write, and signatures that must not hold. */
import { readPackage } from '../../../src/core/formats/package.ts';
import { bytesSource } from '../../../src/core/model/ports.ts';
import { nodePorts } from '../../../src/node/ports.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { demoApk } from '../../support/paths.ts';
import {
  BLOCK,
  type BlockOptions,
  minSdkAttribute,
  PROOF_OF_ROTATION,
  proofOfRotation,
  signers,
  writeSignedApk,
} from '../../support/signing-block-writer.ts';
import type { WrittenEntry } from '../../support/zip-writer.ts';

let entries: WrittenEntry[];
beforeAll(async () => {
  entries = await withPackage(demoApk, async ({ zip }) => [
    { name: 'AndroidManifest.xml', data: await zip.read('AndroidManifest.xml') },
    { name: 'classes.dex', data: await zip.read('classes.dex'), stored: true },
  ]);
});

const { fresh, old } = signers;
const v2: BlockOptions = { id: BLOCK.v2, by: old };
const v3: BlockOptions = { id: BLOCK.v3, by: old, sdkRange: [28, 32], attributes: [minSdkAttribute(33)] };
const rotation: [number, Buffer] = [PROOF_OF_ROTATION, proofOfRotation([old, fresh])];
const v31: BlockOptions = { id: BLOCK.v31, by: fresh, sdkRange: [33, 0x7fffffff], attributes: [rotation] };

async function signingOf(blocks: BlockOptions[]) {
  const bytes = writeSignedApk(entries, blocks);
  const read = await readPackage('x.apk', bytesSource(bytes), 'digest', nodePorts);
  if (!read.ok) throw new Error(read.problem.found);
  return read.value.app.signing;
}

test('a key that was rotated for Android 13: the newest scheme says who signs, and after whom', async () => {
  const { certificates, schemes } = await signingOf([v2, v3, v31]);
  expect(schemes.flatMap(({ problems }) => problems)).toEqual([]);
  expect(schemes.map(({ outcome, scheme }) => `${scheme} ${outcome}`)).toEqual([
    'v3.1 verified',
    'v3 verified',
    'v2 verified',
  ]);
  expect(certificates.map(({ key, subject }) => `${subject}, ${key}`)).toEqual(['CN=fresh key, EC P-256']);
  expect(schemes[0]!.signers[0]).toMatchObject({
    minSdk: 33,
    lineage: [{ subject: 'CN=old key' }, { subject: 'CN=fresh key' }],
  });
});

test.each<[string, BlockOptions[], string, string]>([
  ['v3.1 taken out', [v2, v3], 'v3', 'signature.stripped'],
  [
    'v3.1 without a signer',
    [v2, { ...v3, attributes: [] }, { ...v31, lies: { noSigner: true } }],
    'v3.1',
    'signature.no-signer',
  ],
  ['contents that differ', [{ ...v2, lies: { digest: Buffer.alloc(32) } }], 'v2', 'signature.digest'],
  [
    'another key than the certificate',
    [{ ...v2, lies: { publicKey: fresh.publicKey } }],
    'v2',
    'signature.key',
  ],
  [
    'levels that are not the signed ones',
    [{ ...v31, lies: { signedRange: [28, 32] } }],
    'v3.1',
    'signature.sdk-range',
  ],
  ['an algorithm that nobody knows', [{ ...v2, lies: { algorithm: 0x0999 } }], 'v2', 'signature.algorithm'],
  [
    'a lineage that the old key did not sign',
    [{ ...v31, attributes: [[PROOF_OF_ROTATION, proofOfRotation([old, fresh], true)]] }],
    'v3.1',
    'signature.lineage',
  ],
  [
    'a lineage that ends elsewhere',
    [{ ...v31, attributes: [[PROOF_OF_ROTATION, proofOfRotation([fresh, old])]] }],
    'v3.1',
    'signature.lineage',
  ],
])('%s does not hold', async (_, blocks, scheme, code) => {
  const { schemes } = await signingOf(blocks);
  const broken = schemes.find((of) => of.scheme === scheme)!;
  expect(broken.outcome).toBe('broken');
  expect(broken.problems.map((problem) => problem.code)).toContain(code);
});
