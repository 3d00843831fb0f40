/** Which messaging service to send to, and as whom: `fenlok standin messages --connection` makes such a file for the stand-in. */
import { dirname, resolve } from 'node:path';
import { z } from 'zod';
import { UnreadableError } from '../../core/model/problem.ts';
import { readYaml } from '../read-yaml.ts';

const address = z.string().regex(/^https?:\/\/[^/]+$/, 'https://HOST or https://HOST:PORT');

/** The common JSON form of a service account; what else stands in it is not read. */
const serviceAccountSchema = z.looseObject({
  type: z.literal('service_account'),
  project_id: z.string().regex(/^[\w-]+$/),
  private_key_id: z.string(),
  private_key: z.string(),
  client_email: z.string(),
  token_uri: z.url(),
});
export type ServiceAccount = z.infer<typeof serviceAccountSchema>;

const senderSchema = z.strictObject({
  serviceAccount: serviceAccountSchema.optional(),
  serviceAccountFile: z.string().optional(),
});

const messageServiceFileSchema = z.strictObject({
  fenlok: z.literal('message-service/1'),
  /** Where messages are posted. */
  url: address,
  ...senderSchema.shape,
  /** A second project, as teams have one for builds under development. */
  development: senderSchema.optional(),
  /** Of the stand-in: where devices connect. */
  devices: z.string().optional(),
  secret: z.string().optional(),
});

export interface MessageServiceFile {
  url: string;
  production: ServiceAccount;
  development?: ServiceAccount;
  devices?: string;
  secret?: string;
}

/** @throws UnreadableError; no error shows a key */
export async function readMessageServiceFile(file: string): Promise<MessageServiceFile> {
  const { value } = await readYaml(file, messageServiceFileSchema);
  const { development, devices, secret, url, ...production } = value;
  return {
    url,
    production: await accountOf(file, production),
    ...(development && { development: await accountOf(file, development) }),
    ...(devices !== undefined && { devices }),
    ...(secret !== undefined && { secret }),
  };
}

async function accountOf(file: string, sender: z.infer<typeof senderSchema>): Promise<ServiceAccount> {
  if (sender.serviceAccount) return sender.serviceAccount;
  if (sender.serviceAccountFile)
    return (await readYaml(resolve(dirname(file), sender.serviceAccountFile), serviceAccountSchema)).value;
  throw new UnreadableError({
    code: 'message-service.no-account',
    file,
    found: 'neither serviceAccount nor serviceAccountFile',
    expected: 'serviceAccountFile: account.json, the service account of the project',
  });
}
