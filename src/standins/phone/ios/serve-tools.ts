/** What tools outside do with the iOS phone, which no lookout can: installing apps, cutting the network. One JSON object a line. */
import { readFile } from 'node:fs/promises';
import { type AddressInfo, createServer, type Socket } from 'node:net';
import { readLines } from '../../json-lines.ts';
import type { ServedLookout } from './serve-lookout.ts';

export type ToolOrder =
  | { do: 'install'; file: string }
  | { do: 'uninstall'; app: string }
  | { do: 'network-off' | 'network-on' | 'is-online' };
export type ToolRequest = { token: string } & ToolOrder;
export type ToolAnswer = { did: string } | { refused: string };

/** @param drawings package with the colours and drawings of its apps */
export async function serveTools(
  { phone, token }: Pick<ServedLookout, 'phone' | 'token'>,
  drawings: Uint8Array,
): Promise<{ address: string; close(): Promise<void> }> {
  const sockets = new Set<Socket>();
  const answer = async (request: ToolRequest): Promise<ToolAnswer> => {
    if (request.token !== token) return { refused: 'the token is another one' };
    switch (request.do) {
      case 'install': {
        const { label } = await phone.install(new Uint8Array(await readFile(request.file)), drawings);
        return { did: `Installed ${label}` };
      }
      case 'uninstall':
        phone.uninstall(request.app);
        return { did: `Removed ${request.app}` };
      case 'network-off':
      case 'network-on':
        await phone.setOnline(request.do === 'network-on');
        return { did: `The network is ${phone.isOnline ? 'on' : 'off'}` };
      case 'is-online':
        return { did: phone.isOnline ? 'online' : 'offline' };
    }
  };
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket));
    socket.on('error', () => socket.destroy());
    readLines<ToolRequest>(socket, (request) => {
      answer(request)
        .catch((error: Error): ToolAnswer => ({ refused: error.message }))
        .then((said) => socket.end(`${JSON.stringify(said)}\n`));
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(0, '127.0.0.1', resolve);
  });
  return {
    address: `127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: async () => {
      for (const socket of sockets) socket.destroy();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
