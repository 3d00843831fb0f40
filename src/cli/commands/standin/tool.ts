/** `fenlok standin tool`: does with a stand-in iOS phone what the tools of a real one do; meant for `ios.commands`. */
import { connect } from 'node:net';
import { resolve } from 'node:path';
import { UnreadableError } from '../../../core/model/problem.ts';
import { listLookouts } from '../../../device/ios/known-lookouts.ts';
import { readLines } from '../../../standins/json-lines.ts';
import type { ToolAnswer, ToolRequest } from '../../../standins/phone/ios/serve-tools.ts';
import type { AddCommand } from '../../command-table.ts';
import { UsageError } from '../../io.ts';
import { stateFolderOf } from '../device-options.ts';

export const toolCommand: AddCommand = (command, { io }) => {
  command
    .argument('<address>', 'of the stand-in phone: 127.0.0.1:PORT')
    .argument('<what>', 'install or uninstall')
    .argument('<app>', 'the package, or the bundle id of what is removed')
    .addHelpText(
      'after',
      '\nExample, in fenlok.yaml:\n  ios:\n    commands:\n      install: [npx, fenlok, standin, tool, "{address}", install, "{package}"]\n      uninstall: [npx, fenlok, standin, tool, "{address}", uninstall, "{app}"]',
    )
    .action(async (address: string, what: string, app: string) => {
      if (what !== 'install' && what !== 'uninstall')
        throw new UsageError(`${what}: say install or uninstall`);
      const known = (await listLookouts(stateFolderOf(io))).find((one) => one.address === address);
      if (!known?.tools) throw new UsageError(`no stand-in iOS phone is at ${address}`);
      const { token } = known;
      const said = await ask(
        known.tools,
        what === 'install' ? { token, do: what, file: resolve(io.cwd, app) } : { token, do: what, app },
      );
      if ('refused' in said)
        throw new UnreadableError({ code: 'standin.refused', file: app, found: said.refused });
      io.out(`${said.did}\n`);
    });
};

function ask(address: string, request: ToolRequest): Promise<ToolAnswer> {
  const [host = '', port = ''] = address.split(':');
  return new Promise((done, fail) => {
    const socket = connect(Number(port), host);
    socket.once('error', fail);
    socket.once('close', () => fail(new Error(`the phone at ${address} went away`)));
    readLines<ToolAnswer>(socket, (said) => {
      done(said);
      socket.destroy();
    });
    socket.write(`${JSON.stringify(request)}\n`);
  });
}
