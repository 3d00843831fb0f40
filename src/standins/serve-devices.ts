/** The port at which devices connect to a stand-in that sends messages: one JSON object a line, after a secret was said. */
import { type AddressInfo, createServer, type Socket } from 'node:net';
import { readLines } from './json-lines.ts';

interface DeviceHub<Line> {
  connect(deviceId: string, deliver: (message: object) => void): void;
  disconnect(deviceId: string): void;
  /** @returns what is said to the device, if anything */
  onLine(deviceId: string, line: Line): object | undefined;
}

interface ServedDevices {
  /** `127.0.0.1:PORT` */
  address: string;
  close(): Promise<void>;
}

export async function serveDevices<Line extends { do: string }>(
  hub: DeviceHub<Line>,
  secret: string,
): Promise<ServedDevices> {
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket));
    serveDevice(socket, secret, hub);
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(0, '127.0.0.1', resolve);
  });
  return {
    address: `127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: () => {
      for (const socket of sockets) socket.destroy();
      return new Promise((resolve) => server.close(() => resolve()));
    },
  };
}

type Hello = { do: 'hello'; device: string; secret: string };

function serveDevice<Line extends { do: string }>(
  socket: Socket,
  secret: string,
  hub: DeviceHub<Line>,
): void {
  let deviceId: string | undefined;
  const say = (line: object) => {
    if (!socket.destroyed) socket.write(`${JSON.stringify(line)}\n`);
  };
  socket.on('error', () => socket.destroy());
  socket.on('close', () => {
    if (deviceId !== undefined) hub.disconnect(deviceId);
  });
  readLines<Hello | Line>(socket, (line) => {
    if (isHello(line)) {
      if (line.secret !== secret) {
        socket.destroy();
        return;
      }
      deviceId = line.device;
      say({ did: 'hello' });
      hub.connect(deviceId, (message) => say({ did: 'message', ...message }));
    } else if (deviceId === undefined) socket.destroy();
    else {
      const answer = hub.onLine(deviceId, line as Line);
      if (answer) say(answer);
    }
  });
}

const isHello = (line: { do: string }): line is Hello => line.do === 'hello';
