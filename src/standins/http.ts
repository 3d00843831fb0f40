/** What stand-ins that speak HTTP on loopback share. */
import { timingSafeEqual } from 'node:crypto';
import type { IncomingMessage, RequestListener, Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';

/** @param port 0 takes a free one. @returns `http://127.0.0.1:PORT` */
export async function listen(serve: RequestListener, port: number): Promise<{ server: Server; url: string }> {
  const server = createServer(serve);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return { server, url: `http://127.0.0.1:${(server.address() as AddressInfo).port}` };
}

export const stopListening = (server: Server): Promise<void> =>
  new Promise((resolve) => {
    server.close(() => resolve());
    server.closeAllConnections();
  });

/** Whether the head of a request carries the secret. */
export function isBearer({ headers }: IncomingMessage, secret: string): boolean {
  const given = Buffer.from(headers.authorization ?? '');
  const wanted = Buffer.from(`Bearer ${secret}`);
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}

const MUCH_TOO_LARGE = 16;

/** Undefined where it is too large; what is not much too large is read to its end, so that the answer arrives. */
export async function readBytes(request: IncomingMessage, limitBytes: number): Promise<Buffer | undefined> {
  const pieces: Buffer[] = [];
  let length = 0;
  for await (const piece of request as AsyncIterable<Buffer>) {
    length += piece.length;
    if (length > MUCH_TOO_LARGE * limitBytes) break;
    if (length <= limitBytes) pieces.push(piece);
  }
  return length > limitBytes ? undefined : Buffer.concat(pieces);
}

/** The same as text in UTF-8. */
export const readBody = async (request: IncomingMessage, limitBytes: number): Promise<string | undefined> =>
  (await readBytes(request, limitBytes))?.toString('utf8');
