import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { UnreadableError } from '../../core/model/problem.ts';
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
  log?: boolean;
  json?: boolean;
}

const ACCESS = ['open', 'asked', 'refused'] as const;

/** `fenlok standin …`: simulated surroundings of an app, until Ctrl-C. */
export const standinCommand: AddCommand = (program, io) => {
  program
    .command('standin')
    .description('run a stand-in: a small simulated phone that bridge clients can drive')
    .command('phone')
    .description('boot a phone and keep it on a port of this machine until Ctrl-C')
    .option('--shape <name>', 'common, small, foldable or tablet', 'common')
    .option('--port <number>', 'TCP port on loopback; 0 takes a free one', '0')
    .option('--package <file...>', 'APKs to install; only the demo app has a life of its own', [])
    .option('--sites <folder>', 'what sites serve: HOST/.well-known/assetlinks.json in it')
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
