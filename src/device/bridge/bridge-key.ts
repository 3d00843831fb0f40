/** The key by which a phone knows this computer: made once, kept where only its owner reads it. */
import { generateKeyPair } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { AdbCredentialStore, AdbPrivateKey } from '@yume-chan/adb';
import { withFileLock } from '../../node/file-lock.ts';
import { writeSecret } from '../../node/write-secret.ts';

const NAME = 'fenlok';

export function bridgeKey(stateFolder: string): AdbCredentialStore {
  const file = join(stateFolder, 'bridge-key.der');
  const readKept = () => readFile(file).catch(() => undefined);
  return {
    async *iterateKeys(): AsyncGenerator<AdbPrivateKey> {
      const kept = await readKept();
      if (kept) yield { buffer: new Uint8Array(kept), name: NAME };
    },
    generateKey: async () => {
      // of two calls that are the first the phones would trust one alone
      const der = await withFileLock(file, async () => (await readKept()) ?? makeKey(file));
      return { buffer: new Uint8Array(der), name: NAME };
    },
  };
}

async function makeKey(file: string): Promise<Uint8Array> {
  const { privateKey } = await promisify(generateKeyPair)('rsa', { modulusLength: 2048 });
  const der = privateKey.export({ format: 'der', type: 'pkcs8' });
  await writeSecret(file, der);
  return der;
}
