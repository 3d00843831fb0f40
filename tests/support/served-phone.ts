import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { nodePorts } from '../../src/node/ports.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import {
  type PhoneOptions,
  type ServedPhone,
  servePhone,
} from '../../src/standins/phone/bridge/serve-phone.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { demoApk, demoFolder } from './paths.ts';

/** What Kelpline's two sites serve. */
export const kelplineSites = (): Map<string, string> =>
  new Map(
    ['kelpline.example', 'www.kelpline.example'].map((host) => [
      host,
      readFileSync(join(demoFolder, 'site', host, '.well-known/assetlinks.json'), 'utf8'),
    ]),
  );

/** A phone on a free port with the demo app installed, closed by the caller. */
export async function bootPhone(options: Partial<PhoneOptions> = {}): Promise<ServedPhone> {
  const phone = await servePhone({ shape: shapes.common, ports: nodePorts, apps: [kelpline], ...options });
  const installed = await phone.os.packages.install(await readFile(demoApk), { replace: true });
  if (typeof installed === 'string') throw new Error(installed);
  return phone;
}
