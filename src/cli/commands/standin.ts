import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Command } from 'commander';
import { UnreadableError } from '../../core/model/problem.ts';
import { readGatewayFile } from '../../node/push/gateway-file.ts';
import { readTextFile } from '../../node/read-yaml.ts';
import type { LogLine } from '../../standins/phone/os/device-log.ts';
import { type Io, WrongCall } from '../io.ts';
import { type AddCommand, inCwd } from './options.ts';

interface PhoneCall {
  shape: string;
  port: string;
  package: string[];
  access: string;
  sites?: string;
  push?: string;
  log?: boolean;
  json?: boolean;
}

const ACCESS = ['open', 'asked', 'refused'] as const;

/** `fenlok standin …`: simulated surroundings of an app, until Ctrl-C. */
export const standinCommand: AddCommand = (program, io) => {
  const group = program
    .command('standin')
    .description('run a stand-in: a small simulated phone that bridge clients can drive, or a push gateway');
  addPush(group, io);
  group
    .command('phone')
    .description('boot a phone and keep it on a port of this machine until Ctrl-C')
    .option('--shape <name>', 'common, small, foldable or tablet', 'common')
    .option('--port <number>', 'TCP port on loopback; 0 takes a free one', '0')
    .option('--package <file...>', 'APKs to install; only the demo app has a life of its own', [])
    .option('--sites <folder>', 'what sites serve: HOST/.well-known/assetlinks.json in it')
    .option(
      '--push <file>',
      'the push gateway that it is a device of, as `fenlok standin push --write` wrote it',
    )
    .option('--access <how>', 'open, asked (as a phone asks its user), or refused', 'open')
    .option('--log', 'print what the phone logs')
    .option('--json', 'print the address as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok standin phone --shape small --package app-release.apk\n  adb connect 127.0.0.1:PORT',
    )
    .action(async (call: PhoneCall) => {
      const { shapes } = await import('../../standins/phone/shapes.ts');
      const { servePhone } = await import('../../standins/phone/bridge/serve-phone.ts');
      const { kelpline } = await import('../../standins/phone/apps/kelpline/kelpline.ts');
      const { nodePorts } = await import('../../node/ports.ts');
      const shape = Object.values(shapes).find(({ name }) => name === call.shape);
      if (!shape)
        throw new WrongCall(
          `no phone is shaped "${call.shape}"; there are ${Object.keys(shapes).join(', ')}`,
        );
      const access = ACCESS.find((one) => one === call.access);
      if (!access) throw new WrongCall(`--access ${call.access}: say ${ACCESS.join(', ')}`);
      const phone = await servePhone({
        shape,
        ports: nodePorts,
        apps: [kelpline],
        port: portOf(call.port),
        access,
        push: call.push === undefined ? undefined : await devicesOf(inCwd(io, call.push)),
        sites: call.sites === undefined ? undefined : await readSites(inCwd(io, call.sites)),
      });
      try {
        for (const file of call.package) {
          const path = inCwd(io, file);
          const installed = await phone.os.packages.install(await readFile(path), { replace: true });
          if (typeof installed === 'string')
            throw new UnreadableError({
              code: 'standin.not-installed',
              file: path,
              found: `a package that the phone refuses: ${installed}`,
              remedy: 'Give a signed APK.',
            });
          io.err(`Installed ${installed.label} ${installed.opened.app.build.version}\n`);
        }
        io.out(
          call.json
            ? `${JSON.stringify({ address: phone.address, shape: shape.name })}\n`
            : `The ${shape.name} phone is at ${phone.address}. Connect with  adb connect ${phone.address}  or  fenlok drill --device ${phone.address}\n`,
        );
        if (call.log) phone.os.log.follow((line) => io.err(`${sayLine(line)}\n`));
        await untilStopped(io);
      } finally {
        await phone.close();
      }
    });
};

interface PushCall {
  write?: string;
  receiver?: string;
  tokenFile?: string;
  environment: string;
  fail: string[];
  log?: boolean;
  json?: boolean;
}

function addPush(group: Command, io: Io): void {
  group
    .command('push')
    .description('run a push gateway for both environments (HTTP/2 over TLS on loopback) until Ctrl-C')
    .option(
      '--write <file>',
      'write its addresses, certificate and provider key there, for --send and --push',
    )
    .option('--receiver <appId>', 'attach a small device as iOS has it, with this app, and print its trace')
    .option('--token-file <file>', "write the receiver's token there")
    .option('--environment <name>', "of the receiver's app: production or development", 'production')
    .option('--fail <faults...>', 'let the next requests go wrong: slow, too-many, internal, drop', [])
    .option('--log', 'print each request with its answer; never tokens or keys')
    .option('--json', 'print the addresses as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok standin push --write gateway.json --receiver example.app --token-file token.txt\n  fenlok try payload message.json --send gateway.json --token-file token.txt',
    )
    .action(async (call: PushCall) => {
      const { serveGateway } = await import('../../standins/push/serve-gateway.ts');
      const { environment } = call;
      if (environment !== 'production' && environment !== 'development')
        throw new WrongCall(`--environment ${environment}: say production or development`);
      const faults = call.fail.map(faultNamed);
      const served = await serveGateway({
        onAnswer: (site, { headers }, status, reason) => {
          if (call.log)
            io.err(
              `${site}  ${headers['apns-topic'] ?? '?'}  ${headers['apns-push-type'] ?? '?'}  ${status} ${reason ?? ''}\n`,
            );
        },
      });
      try {
        for (const fault of faults) served.gateway.fail(fault);
        const { address } = served;
        if (call.write)
          await writeFile(inCwd(io, call.write), `${JSON.stringify(address, null, 2)}\n`, { mode: 0o600 });
        if (call.receiver) await attachReceiver(call.receiver, address, { ...call, environment }, io);
        const { development, devices, production } = address;
        io.out(
          call.json
            ? `${JSON.stringify({ production, development, devices })}\n`
            : `The push gateway is at ${production} (production) and ${development} (development).${call.write ? ` Send with  fenlok try payload FILE --send ${call.write}` : ''}\n`,
        );
        await untilStopped(io);
      } finally {
        await served.close();
      }
    });
}

const FAULTS = ['slow', 'too-many', 'internal', 'drop'] as const;

function faultNamed(name: string): (typeof FAULTS)[number] {
  const fault = FAULTS.find((one) => one === name);
  if (!fault) throw new WrongCall(`--fail ${name}: say ${FAULTS.join(', ')}`);
  return fault;
}

/** With its permission granted, and left by its user. */
async function attachReceiver(
  appId: string,
  address: { devices: string; secret: string },
  { environment, tokenFile }: { environment: 'production' | 'development'; tokenFile?: string },
  io: Io,
): Promise<void> {
  const { Receiver } = await import('../../standins/push/receiver.ts');
  const app = { appId, environment, showsInFront: true, categories: {} };
  const receiver = new Receiver(app, address, 'receiver');
  receiver.onLine((line) => io.out(`${JSON.stringify(line)}\n`));
  await receiver.goOnline();
  receiver.answer('granted');
  receiver.leave();
  const token = await receiver.register();
  if (tokenFile) await writeFile(inCwd(io, tokenFile), `${token}\n`, { mode: 0o600 });
}

/** What a phone needs of the gateway's file. */
async function devicesOf(file: string): Promise<{ devices: string; secret: string }> {
  const { devices, secret } = await readGatewayFile(file);
  if (devices && secret) return { devices, secret };
  throw new UnreadableError({
    code: 'gateway.no-devices',
    file,
    found: 'a gateway that devices of ours cannot connect to',
    expected: 'the file of a stand-in: fenlok standin push --write FILE',
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

function portOf(text: string): number {
  const port = Number(text);
  if (!Number.isInteger(port) || port < 0 || port > 65535) throw new WrongCall(`--port ${text}: no TCP port`);
  if (port >= 5554 && port <= 5585)
    throw new WrongCall(
      `--port ${text}: the bridge's server takes 5554 to 5585 for emulators; choose another`,
    );
  return port;
}

const untilStopped = ({ signal }: Io): Promise<void> =>
  new Promise((resolve) => {
    if (signal.aborted) resolve();
    else signal.addEventListener('abort', () => resolve(), { once: true });
  });

const sayLine = ({ buffer, message, pid, priority, tag }: LogLine): string =>
  `${buffer.padEnd(6)} ${String(pid).padStart(5)} ${priority} ${tag}: ${message}`;
