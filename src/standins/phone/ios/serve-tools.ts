/** What tools outside do with the iOS phone, which no lookout can: installing and removing apps. One JSON object a line. */
import { readFile } from 'node:fs/promises';
import { type AddressInfo, createServer, type Socket } from 'node:net';
import { readLines } from '../../json-lines.ts';
import type { ServedLookout } from './serve-lookout.ts';

export type ToolRequest = { token: string } & (
  | { do: 'install'; file: string }
  | { do: 'uninstall'; app: string }
);
export type ToolAnswer = { did: string } | { refused: string };

/** @param drawings package with the colours and drawings of its apps */
export async function serveTools(
  { phone, token }: Pick<ServedLookout, 'phone' | 'token'>,
  drawings: Uint8Array,
): Promise<{ address: string; close(): Promise<void> }> {
  const sockets = new Set<Socket>();
  const answer = async (request: ToolRequest): Promise<ToolAnswer> => {
    if (request.token !== token) return { refused: 'the token is another one' };
    if (request.do === 'uninstall') {
      phone.uninstall(request.app);
      return { did: `Removed ${request.app}` };
    }
    if (request.do !== 'install') return { refused: 'say install or uninstall' };
    const { label } = await phone.install(new Uint8Array(await readFile(request.file)), drawings);
    return { did: `Installed ${label}` };
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
