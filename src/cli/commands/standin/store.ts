import { UnreadableError } from '../../../core/model/problem.ts';
import { testClocks } from '../../../core/platform/purchases/test-clocks.ts';
import { readYaml } from '../../../node/read-yaml.ts';
import { writeSecret } from '../../../node/write-secret.ts';
import type { AddCommand } from '../../command-table.ts';
import { UsageError } from '../../io.ts';
import { inCwd, renamedOption } from '../options.ts';
import { portOf } from './port-of.ts';
import { untilStopped } from './until-stopped.ts';

interface StoreCall {
  catalogue: string;
  connection?: string;
  journal?: string;
  clock: string;
  rate: string;
  renewals?: string;
  acknowledgeMinutes?: string;
  port: string;
  fail: string[];
  log?: boolean;
  json?: boolean;
}

/** `fenlok standin store`. */
export const storeCommand: AddCommand = (command, { io }) => {
  renamedOption(command, '--write', '--connection')
    .requiredOption('--catalogue <file>', 'what it sells: products, names, prices, testers')
    .option('--connection <file>', 'write its address and secret there, for --store')
    .option('--journal <file>', 'keep all orders there, so that a restart loses nothing')
    .option(
      '--clock <name>',
      `real, or time as short as in ${testClocks.map(({ id }) => id).join(', ')}`,
      'real',
    )
    .option('--rate <number>', 'seconds of the store in a real one; 0 stands still until it is stepped', '1')
    .option('--renewals <number>', 'after so many a subscription ends by itself')
    .option('--acknowledge-minutes <number>', 'what is not finished by then is given back; 0 keeps it')
    .option('--port <number>', 'TCP port on loopback; 0 takes a free one', '0')
    .option('--fail <faults...>', 'let the next answer go wrong: slow, offline, half, twice, disorder', [])
    .option('--log', 'print each request with its answer')
    .option('--json', 'print the address as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok standin store --catalogue store.yaml --connection test-store.json\n  fenlok standin phone --package app.apk --store test-store.json\n  fenlok drill purchases --device 127.0.0.1:PORT --store test-store.json\n\nIts protocol, and how to step its clock: docs/purchases-and-ads.md',
    )
    .action(async (call: StoreCall) => {
      const { storeCatalogueSchema } = await import('../../../standins/store/catalogue.ts');
      const { serveStore, storeFaults } = await import('../../../standins/store/serve-store.ts');
      const { value: catalogue } = await readYaml(inCwd(io, call.catalogue), storeCatalogueSchema);
      const faults = call.fail.map((name) => {
        const fault = storeFaults.find((one) => one === name);
        if (!fault) throw new UsageError(`--fail ${name}: say ${storeFaults.join(', ')}`);
        return fault;
      });
      const served = await serveStore({
        catalogue,
        settings: settingsOf(call),
        journal: call.journal === undefined ? undefined : inCwd(io, call.journal),
        rate: countOf('--rate', call.rate)!,
        port: portOf(call.port),
        onRequest: (did, status) => {
          if (call.log) io.err(`${did}  ${status}\n`);
        },
      }).catch((error: NodeJS.ErrnoException) => {
        throw error.code === 'EADDRINUSE' ? portTaken(call.port) : error;
      });
      try {
        for (const fault of faults) served.fail(fault, 1);
        const { store } = served.address;
        const testers = catalogue.testers.map(({ account }) => account);
        const file = { fenlok: 'test-store/1', ...served.address, testers };
        if (call.connection)
          await writeSecret(inCwd(io, call.connection), `${JSON.stringify(file, null, 2)}\n`);
        io.out(
          call.json
            ? `${JSON.stringify({ store })}\n`
            : `The store is at ${store}, with ${catalogue.products.length} products.${call.connection ? ` Phones and drills find it by  --store ${call.connection}` : ''}\n`,
        );
        await untilStopped(io);
      } finally {
        await served.close();
      }
    });
};

function settingsOf({ acknowledgeMinutes, clock, renewals }: StoreCall) {
  if (clock !== 'real' && !testClocks.some(({ id }) => id === clock))
    throw new UsageError(`--clock ${clock}: say real, ${testClocks.map(({ id }) => id).join(' or ')}`);
  const minutes = countOf('--acknowledge-minutes', acknowledgeMinutes);
  return {
    ...(clock !== 'real' && { testClock: clock }),
    ...(renewals !== undefined && { renewals: countOf('--renewals', renewals) }),
    ...(minutes !== undefined && { acknowledgeMs: minutes * 60_000 }),
  };
}

function countOf(option: string, text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text);
  if (!(value >= 0) || text.trim() === '') throw new UsageError(`${option} ${text}: a number from 0 on`);
  return value;
}

const portTaken = (port: string): UnreadableError =>
  new UnreadableError({
    code: 'standin.port',
    place: `port ${port}`,
    found: 'a port that something else has taken',
    remedy: 'Name another one, or leave --port out for a free one.',
  });
