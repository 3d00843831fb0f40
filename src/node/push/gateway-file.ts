/** Which gateway to send to, and as whom: `fenlok standin push --connection` makes such a file for the stand-in. */
import { dirname, resolve } from 'node:path';
import { z } from 'zod';
import { UnreadableError } from '../../core/model/problem.ts';
import { readTextFile, readYaml } from '../read-yaml.ts';

const https = z.string().regex(/^https:\/\/[^/]+$/, 'https://HOST or https://HOST:PORT');

const gatewayFileSchema = z.strictObject({
  fenlok: z.literal('push-gateway/1'),
  production: https,
  development: https,
  /** Of the stand-in: where devices connect. */
  devices: z.string().optional(),
  secret: z.string().optional(),
  /** PEM, where the gateway's certificate is not one that this machine trusts. */
  ca: z.string().optional(),
  team: z.string().min(1),
  keyId: z.string().min(1),
  /** PKCS #8 in PEM, or the file that holds it. */
  key: z.string().optional(),
  keyFile: z.string().optional(),
});

export type GatewayFile = z.infer<typeof gatewayFileSchema> & { key: string };

/** @throws UnreadableError; no error shows the key */
export async function readGatewayFile(file: string): Promise<GatewayFile> {
  const { value } = await readYaml(file, gatewayFileSchema);
  const key = value.key ?? (value.keyFile && (await readTextFile(resolve(dirname(file), value.keyFile))));
  if (!key)
    throw new UnreadableError({
      code: 'gateway.no-key',
      file,
      found: 'neither key nor keyFile',
      expected: 'keyFile: AuthKey.p8, the private key of the team',
    });
  return { ...value, key };
}
