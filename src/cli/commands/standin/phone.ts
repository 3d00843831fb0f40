import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { UnreadableError } from '../../../core/model/problem.ts';
import { ratingChannels } from '../../../core/model/rating.ts';
import { readAdsFile } from '../../../node/ads/ads-file.ts';
import { readMessageServiceFile } from '../../../node/push/message-service-file.ts';
import { readTextFile } from '../../../node/read-yaml.ts';
import type { ServedPhone } from '../../../standins/phone/bridge/serve-phone.ts';
import type { LogLine } from '../../../standins/phone/os/device-log.ts';
import type { AddCommand } from '../../command-table.ts';
import { type Io, UsageError } from '../../io.ts';
import { inCwd } from '../options.ts';
import { portOf } from './port-of.ts';
import { storeFor } from './store-for.ts';
import { untilStopped } from './until-stopped.ts';

interface PhoneCall {
  platform: string;
  shape: string;
  port: string;
  package: string[];
  access: string;
  sites?: string;
  push?: string;
  store?: string;
  account?: string;
  ads?: string;
  log?: boolean;
  channel: string;
  quirks?: string;
  json?: boolean;
}

const ACCESS = ['open', 'asked', 'refused'] as const;

/** `fenlok standin phone`. */
export const phoneCommand: AddCommand = (command, { io }) => {
  command
    .option('--platform <name>', 'android, or ios: a device with a lookout on it', 'android')
    .option(
      '--shape <name>',
      'common, small, foldable or tablet; of ios phone, older-phone, small-phone or tablet',
      'common',
    )
    .option('--port <number>', 'TCP port on loopback; 0 takes a free one', '0')
    .option(
      '--package <file...>',
      'APKs (of ios IPAs) to install; only the demo app has a life of its own',
      [],
    )
    .option('--sites <folder>', 'what sites serve: HOST/.well-known/assetlinks.json in it')
    .option(
      '--push <file>',
      'the messaging service that it is a device of, as `fenlok standin messages --connection` wrote it',
    )
    .option('--store <file>', 'the store that it buys from, as `fenlok standin store --connection` wrote it')
    .option('--account <name>', 'the tester who is signed in there (default: the first of the store)')
    .option('--ads <file>', 'the ad networks of its apps, as `fenlok standin ads --connection` wrote it')
    .option('--channel <name>', `the way by which its packages came: ${ratingChannels.join(', ')}`, 'local')
    .option('--quirks <names>', 'what phones in the field do, with commas between; a wrong name lists them')
    .option('--access <how>', 'open, asked (as a phone asks its user), or refused', 'open')
    .option('--log', 'print what the phone logs')
    .option('--json', 'print the address as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok standin phone --shape small --package app-release.apk\n  adb connect 127.0.0.1:PORT',
    )
    .action(async (call: PhoneCall) => {
      if (call.platform === 'android') await standAndroidPhone(call, io);
      else if (call.platform === 'ios') {
        const { standIosPhone } = await import('./ios-phone.ts');
        await standIosPhone(call, io);
      } else throw new UsageError(`--platform ${call.platform}: say android or ios`);
    });
};

async function standAndroidPhone(call: PhoneCall, io: Io): Promise<void> {
  const { shapes } = await import('../../../standins/phone/shapes.ts');
  const { servePhone } = await import('../../../standins/phone/bridge/serve-phone.ts');
  const { kelpline } = await import('../../../standins/phone/apps/kelpline/kelpline.ts');
  const { kelplineNext } = await import('../../../standins/phone/apps/kelpline/next.ts');
  const { nodePorts } = await import('../../../node/ports.ts');
  const shape = Object.values(shapes).find(({ name }) => name === call.shape);
  if (!shape)
    throw new UsageError(`no phone is shaped "${call.shape}"; there are ${Object.keys(shapes).join(', ')}`);
  const access = ACCESS.find((one) => one === call.access);
  if (!access) throw new UsageError(`--access ${call.access}: say ${ACCESS.join(', ')}`);
  const channel = ratingChannels.find((one) => one === call.channel);
  if (!channel) throw new UsageError(`--channel ${call.channel}: say ${ratingChannels.join(', ')}`);
  const phone = await servePhone({
    shape,
    ports: nodePorts,
    apps: [kelpline, kelplineNext],
    port: portOf(call.port),
    access,
    quirks: await quirksOf(call),
    push: call.push === undefined ? undefined : await devicesOf(inCwd(io, call.push)),
    store: call.store === undefined ? undefined : await storeFor(inCwd(io, call.store), call.account),
    ads: call.ads === undefined ? undefined : (await readAdsFile(inCwd(io, call.ads))).ads,
    sites: call.sites === undefined ? undefined : await readSites(inCwd(io, call.sites)),
  });
  try {
    phone.os.packages.channel = channel;
    for (const file of call.package) await installOn(phone, inCwd(io, file), io);
    io.out(
      call.json
        ? `${JSON.stringify({ address: phone.address, shape: shape.name })}\n`
        : `The ${shape.name} phone is at ${phone.address}. Connect with  adb connect ${phone.address}  or  fenlok drill --device ${phone.address}\n`,
    );
    if (call.log) phone.os.log.follow((line) => io.err(`${formatLine(line)}\n`));
    await untilStopped(io);
  } finally {
    await phone.close();
  }
}

async function quirksOf({ quirks = '' }: PhoneCall) {
  const { isQuirk, QUIRKS } = await import('../../../standins/phone/quirks.ts');
  const names = quirks.split(',').filter(Boolean);
  const wrong = names.find((name) => !isQuirk(name));
  if (wrong === undefined) return names.filter(isQuirk);
  const known = Object.entries(QUIRKS).map(
    ([name, { does, seenOn }]) => `  ${name.padEnd(15)} ${does} (seen on ${seenOn})`,
  );
  throw new UsageError(`--quirks ${wrong}: there are\n${known.join('\n')}`);
}

async function installOn({ os }: ServedPhone, path: string, io: Io): Promise<void> {
  const installed = await os.packages.install(await readFile(path), { replace: true });
  if (typeof installed === 'string')
    throw new UnreadableError({
      code: 'standin.not-installed',
      file: path,
      found: `a package that the phone refuses: ${installed}`,
      remedy: 'Give a signed APK.',
    });
  io.err(`Installed ${installed.label} ${installed.opened.app.build.version}\n`);
}

/** What a phone needs of the messaging service's file. */
async function devicesOf(file: string): Promise<{ devices: string; secret: string }> {
  const { devices, secret } = await readMessageServiceFile(file);
  if (devices && secret) return { devices, secret };
  throw new UnreadableError({
    code: 'message-service.no-devices',
    file,
    found: 'a service that a stand-in phone cannot connect to',
    expected: 'the file of a stand-in: fenlok standin messages --connection FILE',
  });
}

/** By the names of the folders. */
async function readSites(folder: string): Promise<Map<string, string>> {
  const hosts = await readdir(folder).catch(() => {
    throw new UnreadableError({ code: 'file.missing', file: folder, found: 'no such folder' });
  });
  const served = await Promise.all(
    hosts.map(async (host) => {
      const file = join(folder, host, '.well-known', 'assetlinks.json');
      return [host, await readTextFile(file).catch(() => undefined)] as const;
    }),
  );
  return new Map(served.flatMap(([host, text]) => (text === undefined ? [] : [[host, text] as const])));
}

const formatLine = ({ buffer, message, pid, priority, tag }: LogLine): string =>
  `${buffer.padEnd(6)} ${String(pid).padStart(5)} ${priority} ${tag}: ${message}`;
