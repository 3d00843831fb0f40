import { writeSecret } from '../../../node/write-secret.ts';
import type { AddCommand } from '../../command-table.ts';
import { UsageError } from '../../io.ts';
import { inCwd, renamedOption } from '../options.ts';
import { portOf } from './port-of.ts';
import { untilStopped } from './until-stopped.ts';

interface MessagesCall {
  connection?: string;
  project: string;
  port: string;
  fail: string[];
  log?: boolean;
  json?: boolean;
}

/** `fenlok standin messages`. */
export const messagesCommand: AddCommand = (command, { io }) => {
  renamedOption(command, '--write', '--connection')
    .option('--connection <file>', 'write its address and service accounts there, for --send and --push')
    .option('--project <id>', "the release's project; the one for tests is called ID-test", 'kelpline')
    .option('--port <number>', 'TCP port on loopback; 0 takes a free one', '0')
    .option(
      '--fail <faults...>',
      'let the next requests go wrong: slow, drop, or a documented code such as UNAVAILABLE',
      [],
    )
    .option('--log', 'print each request with its answer; never tokens or keys')
    .option('--json', 'print the address as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok standin messages --connection messages.json\n  fenlok standin phone --package app.apk --push messages.json\n  fenlok drill push --device 127.0.0.1:PORT --push messages.json\n\nYour own backend: give it the serviceAccount of that file, and its url as address.',
    )
    .action(async (call: MessagesCall) => {
      const { MESSAGE_FAULTS } = await import('../../../standins/messages/message-service.ts');
      const { serveMessages } = await import('../../../standins/messages/serve-messages.ts');
      const unknown = call.fail.find((name) => !MESSAGE_FAULTS.includes(name));
      if (unknown !== undefined) throw new UsageError(`--fail ${unknown}: say ${MESSAGE_FAULTS.join(', ')}`);
      if (!/^[a-z][a-z0-9-]{3,28}$/.test(call.project))
        throw new UsageError(`--project ${call.project}: small letters, digits and hyphens, 4 to 29 of them`);
      const served = await serveMessages({
        project: call.project,
        port: portOf(call.port),
        onAnswer: (project, status, code) => {
          if (call.log) io.err(`${project}  ${status} ${code ?? ''}\n`);
        },
      });
      try {
        for (const fault of call.fail) served.service.fail(fault);
        const { address } = served;
        if (call.connection)
          await writeSecret(inCwd(io, call.connection), `${JSON.stringify(address, null, 2)}\n`);
        io.out(
          call.json
            ? `${JSON.stringify({ url: address.url, devices: address.devices })}\n`
            : `The messaging service is at ${address.url}, for the projects ${call.project} and ${call.project}-test.${call.connection ? ` Send with  fenlok try payload FILE --send ${call.connection}` : ''}\n`,
        );
        await untilStopped(io);
      } finally {
        await served.close();
      }
    });
};
