/** Where the test store is: `fenlok standin store --connection` makes such a file for the stand-in. */
import { z } from 'zod';
import { readYaml } from '../read-yaml.ts';

const storeFileSchema = z.strictObject({
  fenlok: z.literal('test-store/1'),
  store: z
    .string()
    .regex(/^http:\/\/127\.0\.0\.1:\d+$/, 'http://127.0.0.1:PORT: only a stand-in on this machine'),
  secret: z.string().min(1),
  app: z.string().min(1),
  /** Base64 of the certificate that vouches for what it signs. */
  root: z.string().min(1),
  /** Base64 of the key that it signs Android's purchases with. */
  licenseKey: z.string().min(1).optional(),
  /** Testers that it knows. */
  testers: z.array(z.string()).default([]),
});
export type StoreFile = z.infer<typeof storeFileSchema>;

/** @throws UnreadableError; no error shows the secret */
export const readStoreFile = async (file: string): Promise<StoreFile> =>
  (await readYaml(file, storeFileSchema)).value;
