/** What stand-ins that speak HTTP on loopback share. */
import { timingSafeEqual } from 'node:crypto';
import type { IncomingMessage, RequestListener, Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';

/** @param port 0 takes a free one. @returns `http://127.0.0.1:PORT` */
export async function listen(serve: RequestListener, port: number): Promise<{ server: Server; url: string }> {
  const server = createServer((request, response) => {
    const refused = refusalOf(request);
    if (refused === undefined) serve(request, response);
    else response.writeHead(refused, { connection: 'close' }).end();
  });
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

const LOOPBACK = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/**
 * Why a request is not served: 400 where its target is no address; 403 where it came by another name than this machine's, or from
 * a page of another place, which a person's browser may be led to (Fetch, section 3.2, the Origin header).
 */
function refusalOf({ headers, url = '' }: IncomingMessage): 400 | 403 | undefined {
  const host = headers.host ?? '';
  if (!LOOPBACK.test(host)) return 403;
  if (headers.origin !== undefined && headers.origin !== `http://${host}`) return 403;
  return url.startsWith('/') && URL.canParse(url, `http://${host}`) && canDecode(url) ? undefined : 400;
}

function canDecode(url: string): boolean {
  try {
    decodeURIComponent(url);
    return true;
  } catch {
    return false;
  }
}

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
