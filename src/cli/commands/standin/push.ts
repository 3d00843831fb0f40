import { writeSecret } from '../../../node/write-secret.ts';
import type { AddCommand } from '../../command-table.ts';
import { type Io, UsageError } from '../../io.ts';
import { inCwd, renamedOption } from '../options.ts';
import { untilStopped } from './until-stopped.ts';

interface PushCall {
  connection?: string;
  receiver?: string;
  tokenFile?: string;
  environment: string;
  fail: string[];
  tokenPolicy: string;
  log?: boolean;
  json?: boolean;
}

/** `fenlok standin push`. */
export const pushCommand: AddCommand = (command, { io }) => {
  renamedOption(command, '--write', '--connection')
    .option(
      '--connection <file>',
      'write its addresses, certificate and provider key there, for --send and --push',
    )
    .option('--receiver <appId>', 'attach a small device as iOS has it, with this app, and print its trace')
    .option('--token-file <file>', "write the receiver's token there")
    .option('--environment <name>', "of the receiver's app: production or development", 'production')
    .option(
      '--fail <faults...>',
      'let the next requests go wrong: slow, drop, or a documented reason such as TooManyRequests',
      [],
    )
    .option(
      '--token-policy <policy>',
      'who may have a new provider token once in 20 minutes: each connection, or strict: all of them together',
      'connection',
    )
    .option('--log', 'print each request with its answer; never tokens or keys')
    .option('--json', 'print the addresses as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok standin push --connection gateway.json --receiver example.app --token-file token.txt\n  fenlok try payload message.json --send gateway.json --token-file token.txt',
    )
    .action(async (call: PushCall) => {
      const { serveGateway } = await import('../../../standins/push/serve-gateway.ts');
      const { environment } = call;
      if (environment !== 'production' && environment !== 'development')
        throw new UsageError(`--environment ${environment}: say production or development`);
      const faults = await faultsNamed(call.fail);
      const { tokenPolicy } = call;
      if (tokenPolicy !== 'connection' && tokenPolicy !== 'strict')
        throw new UsageError(`--token-policy ${tokenPolicy}: say connection or strict`);
      const served = await serveGateway({
        tokenPolicy,
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
        if (call.connection)
          await writeSecret(inCwd(io, call.connection), `${JSON.stringify(address, null, 2)}\n`);
        if (call.receiver) await attachReceiver(call.receiver, address, { ...call, environment }, io);
        const { development, devices, production } = address;
        io.out(
          call.json
            ? `${JSON.stringify({ production, development, devices })}\n`
            : `The push gateway is at ${production} (production) and ${development} (development).${call.connection ? ` Send with  fenlok try payload FILE --send ${call.connection}` : ''}\n`,
        );
        await untilStopped(io);
      } finally {
        await served.close();
      }
    });
};

async function faultsNamed(names: readonly string[]) {
  const { FAULTS } = await import('../../../standins/push/gateway.ts');
  return names.map((name) => {
    const fault = FAULTS.find((one) => one === name);
    if (!fault) throw new UsageError(`--fail ${name}: say ${FAULTS.join(', ')}`);
    return fault;
  });
}

/** With its permission granted, and left by its user. */
async function attachReceiver(
  appId: string,
  address: { devices: string; secret: string },
  { environment, tokenFile }: { environment: 'production' | 'development'; tokenFile?: string },
  io: Io,
): Promise<void> {
  const { Receiver } = await import('../../../standins/push/receiver.ts');
  const app = { appId, environment, showsInFront: true, categories: {} };
  const receiver = new Receiver(app, address, 'receiver');
  receiver.onLine((line) => io.out(`${JSON.stringify(line)}\n`));
  await receiver.goOnline();
  receiver.answer('granted');
  receiver.leave();
  const token = await receiver.register();
  if (tokenFile) await writeSecret(inCwd(io, tokenFile), `${token}\n`);
}
