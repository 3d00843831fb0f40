/** `fenlok standin tool`: does with a stand-in iOS phone what the tools of a real one do; meant for `ios.commands`. */
import { connect } from 'node:net';
import { resolve } from 'node:path';
import { UnreadableError } from '../../../core/model/problem.ts';
import { listLookouts } from '../../../device/ios/known-lookouts.ts';
import { readLines } from '../../../standins/json-lines.ts';
import type { ToolAnswer, ToolOrder, ToolRequest } from '../../../standins/phone/ios/serve-tools.ts';
import type { AddCommand } from '../../command-table.ts';
import { type Io, UsageError } from '../../io.ts';
import { stateFolderOf } from '../device-options.ts';

export const toolCommand: AddCommand = (command, { io }) => {
  command
    .argument('<address>', 'of the stand-in phone: 127.0.0.1:PORT')
    .argument('<what>', 'install, uninstall, network-off, network-on, or is-online')
    .argument('[app]', 'the package that is installed, or the bundle id of what is removed')
    .addHelpText(
      'after',
      '\nExample, in fenlok.yaml:\n  ios:\n    commands:\n      install: [npx, fenlok, standin, tool, "{address}", install, "{package}"]\n      uninstall: [npx, fenlok, standin, tool, "{address}", uninstall, "{app}"]\n      networkOff: [npx, fenlok, standin, tool, "{address}", network-off]',
    )
    .action(async (address: string, what: string, app: string | undefined) => {
      const order = orderOf(what, app, io);
      const known = (await listLookouts(stateFolderOf(io))).find((one) => one.address === address);
      if (!known?.tools) throw new UsageError(`no stand-in iOS phone is at ${address}`);
      const said = await ask(known.tools, { token: known.token, ...order });
      if ('refused' in said)
        throw new UnreadableError({ code: 'standin.refused', file: app ?? address, found: said.refused });
      io.out(`${said.did}\n`);
    });
};

function orderOf(what: string, app: string | undefined, io: Io): ToolOrder {
  if (what === 'network-off' || what === 'network-on' || what === 'is-online') return { do: what };
  if (what !== 'install' && what !== 'uninstall')
    throw new UsageError(`${what}: say install, uninstall, network-off, network-on or is-online`);
  if (!app) throw new UsageError(`${what}: say what: ${what === 'install' ? 'a package' : 'a bundle id'}`);
  return what === 'install' ? { do: what, file: resolve(io.cwd, app) } : { do: what, app };
}

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
