/** The key by which a phone knows this computer: made once, kept where only its owner reads it. */
import { generateKeyPair } from 'node:crypto';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { AdbCredentialStore, AdbPrivateKey } from '@yume-chan/adb';

const NAME = 'fenlok';

export function bridgeKey(stateFolder: string): AdbCredentialStore {
  const file = join(stateFolder, 'bridge-key.der');
  return {
    async *iterateKeys(): AsyncGenerator<AdbPrivateKey> {
      const kept = await readFile(file).catch(() => undefined);
      if (kept) yield { buffer: new Uint8Array(kept), name: NAME };
    },
    generateKey: async () => {
      const { privateKey } = await promisify(generateKeyPair)('rsa', { modulusLength: 2048 });
      const der = privateKey.export({ format: 'der', type: 'pkcs8' });
      await mkdir(stateFolder, { recursive: true });
      await writeFile(file, der, { mode: 0o600 });
      return { buffer: new Uint8Array(der), name: NAME };
    },
  };
}
