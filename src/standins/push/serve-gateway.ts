/** The gateway on three ports of this machine: one for providers in each environment (HTTP/2 over TLS), one for devices. */
import { randomBytes, randomUUID } from 'node:crypto';
import {
  constants,
  createSecureServer,
  type Http2SecureServer,
  type Http2Session,
  type ServerHttp2Stream,
} from 'node:http2';
import type { AddressInfo } from 'node:net';
import { decodeProtectedHeader, exportPKCS8, generateKeyPair, jwtVerify } from 'jose';
import { serveDevices } from '../serve-devices.ts';
import { isChannelPath } from './broadcast-channels.ts';
import { type ProviderClaims, type PushEnvironment, PushGateway, type PushRequest } from './gateway.ts';
import { selfSigned } from './self-signed.ts';

/** What a provider and a device need to know of a gateway; `fenlok standin push --connection` puts it into a file. */
export interface GatewayAddress {
  fenlok: 'push-gateway/1';
  production: string;
  development: string;
  /** `127.0.0.1:PORT`, for devices. */
  devices: string;
  /** What devices say when they connect. */
  secret: string;
  /** PEM of the certificate that both sites have; it is made again at each start. */
  ca: string;
  team: string;
  keyId: string;
  /** PKCS #8 of the provider's key, made again at each start. */
  key: string;
}

export interface GatewayOptions {
  nowMs?(): number;
  /** How long a fault `slow` takes. */
  slowMs?: number;
  /** For so long a provider may say nothing; then its connection is closed. */
  idleMs?: number;
  /** For so long a request that has begun may say nothing; then it is given up. */
  restMs?: number;
  /** `strict` counts new provider tokens over all connections. */
  tokenPolicy?: 'connection' | 'strict';
  onAnswer?(environment: PushEnvironment, request: PushRequest, status: number, reason?: string): void;
}

export interface ServedGateway {
  gateway: PushGateway;
  address: GatewayAddress;
  close(): Promise<void>;
}

const TEAM = 'FEN10KTEAM';
const KEY_ID = 'FEN10KKEY1';
const TOKEN_BYTES = 32;
/** Larger bodies are not read on: no push type allows them. */
const MOST_BODY_BYTES = 8 * 1024;
const SLOW_MS = 3_000;
const IDLE_MS = 3600_000;
const REST_MS = 30_000;
/** For so long a connection that was told to go may go by itself. */
const LEAVES_WITHIN_MS = 500;

export async function serveGateway(options: GatewayOptions = {}): Promise<ServedGateway> {
  const { idleMs = IDLE_MS, nowMs = Date.now, restMs = REST_MS, slowMs = SLOW_MS, tokenPolicy } = options;
  const provider = await generateKeyPair('ES256', { extractable: true });
  const tls = await selfSigned();
  const gateway = new PushGateway({
    nowMs,
    newToken: () => randomBytes(TOKEN_BYTES).toString('hex'),
    newId: () => randomUUID().toUpperCase(),
    newChannelId: () => randomBytes(16).toString('base64'),
    verifyProvider: providerVerifier(provider.publicKey),
    ...(tokenPolicy && { tokenPolicy }),
  });
  const sessions = new Set<Http2Session>();
  const sites = await Promise.all(
    (['production', 'development'] as const).map((environment) => {
      const server = createSecureServer({ key: tls.key, cert: tls.cert });
      server.on('session', (session) => {
        sessions.add(session);
        session.on('close', () => sessions.delete(session));
        session.on('error', () => session.destroy());
        session.setTimeout(idleMs, () => sendGoodbye(session, 'IdleTimeout'));
      });
      const onStream = (stream: ServerHttp2Stream, headers: Headers, _flags: number, raw: string[]) => {
        stream.on('error', () => stream.destroy());
        stream.setTimeout(restMs, () => stream.close(constants.NGHTTP2_CANCEL));
        serve(stream, headers, repeatedNames(raw), environment, gateway, slowMs, options.onAnswer).catch(
          () => {
            // given up by its client before it was whole: nobody waits for an answer
            stream.destroy();
          },
        );
      };
      server.on('stream', onStream);
      return listen(server);
    }),
  );
  const secret = randomBytes(16).toString('hex');
  const devices = await serveDevices<DeviceLine>(
    {
      connect: (deviceId, deliver) => gateway.connect(deviceId, deliver),
      disconnect: (deviceId) => gateway.disconnect(deviceId),
      onLine: (deviceId, line) => obey(gateway, deviceId, line),
    },
    secret,
  );
  const [production, development] = sites.map(({ port }) => `https://127.0.0.1:${port}`);
  return {
    gateway,
    address: {
      fenlok: 'push-gateway/1',
      production: production!,
      development: development!,
      devices: devices.address,
      secret,
      ca: tls.cert,
      team: TEAM,
      keyId: KEY_ID,
      key: await exportPKCS8(provider.privateKey),
    },
    close: async () => {
      for (const session of sessions) sendGoodbye(session, 'Shutdown');
      await Promise.all([
        devices.close(),
        ...sites.map(({ server }) => new Promise((done) => server.close(done))),
      ]);
    },
  };
}

/** What a device asks of the gateway. */
function obey(gateway: PushGateway, deviceId: string, line: DeviceLine) {
  if (line.do === 'register')
    return {
      did: 'register',
      appId: line.appId,
      token: gateway.register(deviceId, line.appId, line.environment),
    };
  if (line.do === 'channel')
    gateway.channels[line.environment].subscribe(deviceId, line.channel, line.isWanted);
  else gateway.unregister(deviceId, line.appId);
  return undefined;
}

function listen(server: Http2SecureServer): Promise<{ server: Http2SecureServer; port: number }> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(0, '127.0.0.1', () => resolve({ server, port: (server.address() as AddressInfo).port }));
  });
}

/** Tokens come back with every request, so that one is verified only once. */
type ProviderKey = Awaited<ReturnType<typeof generateKeyPair>>['publicKey'];

function providerVerifier(key: ProviderKey): (token: string) => Promise<ProviderClaims | undefined> {
  const verified = new Map<string, ProviderClaims>();
  return async (token) => {
    const before = verified.get(token);
    if (before) return before;
    const claims = await verify(token, key).catch(() => undefined);
    if (claims) {
      verified.clear();
      verified.set(token, claims);
    }
    return claims;
  };
}

async function verify(token: string, key: ProviderKey): Promise<ProviderClaims | undefined> {
  const { kid } = decodeProtectedHeader(token);
  // how old it may be is the gateway's to say
  const { payload } = await jwtVerify(token, key, { algorithms: ['ES256'], issuer: TEAM });
  return kid === KEY_ID && typeof payload.iat === 'number'
    ? { keyId: kid, teamId: TEAM, issuedAtS: payload.iat }
    : undefined;
}

/** The last frame has the reason as JSON. Answers that are under way are still given. */
function sendGoodbye(session: Http2Session, reason: 'IdleTimeout' | 'Shutdown'): void {
  if (session.closed || session.destroyed) return;
  session.goaway(constants.NGHTTP2_NO_ERROR, 0, Buffer.from(JSON.stringify({ reason })));
  session.close();
  setTimeout(() => session.destroy(), LEAVES_WITHIN_MS).unref();
}

async function serve(
  stream: ServerHttp2Stream,
  headers: Headers,
  repeated: string[],
  environment: PushEnvironment,
  gateway: PushGateway,
  slowMs: number,
  onAnswer: GatewayOptions['onAnswer'],
): Promise<void> {
  const fault = gateway.nextFault();
  if (fault === 'drop') {
    stream.session?.destroy();
    return;
  }
  const request: PushRequest = {
    method: String(headers[':method']),
    path: String(headers[':path']),
    headers: plainHeaders(headers),
    repeated,
    body: await readBody(stream),
    ...(stream.session && { connection: stream.session }),
  };
  if (fault === 'slow') await new Promise((resolve) => setTimeout(resolve, slowMs));
  const answer = await gateway.answer(environment, request, fault === 'slow' ? undefined : fault);
  const { body, channelId, id, reason, status, timestamp, uniqueId } = answer;
  onAnswer?.(environment, request, status, reason);
  if (stream.destroyed || stream.closed) return;
  stream.respond({
    ':status': status,
    'apns-id': id,
    ...(uniqueId && { 'apns-unique-id': uniqueId }),
    ...(isChannelPath(request.path) && { 'apns-request-id': headers['apns-request-id'] ?? id }),
    ...(channelId && { 'apns-channel-id': channelId }),
    ...((reason || body) && { 'content-type': 'application/json' }),
  });
  const said = reason ? { reason, ...(timestamp !== undefined && { timestamp }) } : body;
  stream.end(said && JSON.stringify(said));
  if (stream.session && (reason === 'IdleTimeout' || reason === 'Shutdown'))
    sendGoodbye(stream.session, reason);
}

/** @param rawHeaders name, value, name, value … as they came */
function repeatedNames(rawHeaders: readonly string[]): string[] {
  const names = rawHeaders.filter((_, i) => i % 2 === 0).map((name) => name.toLowerCase());
  return [...new Set(names.filter((name, i) => names.indexOf(name) < i))];
}

type Headers = Record<string, string | string[] | number | undefined>;

function plainHeaders(headers: Headers): Record<string, string> {
  return Object.fromEntries(
    Object.entries(headers).flatMap(([name, value]) =>
      // bytes come as characters, one each
      name.startsWith(':') || value === undefined
        ? []
        : [[name, Buffer.from(String(value), 'latin1').toString('utf8')]],
    ),
  );
}

async function readBody(stream: ServerHttp2Stream): Promise<Uint8Array> {
  const pieces: Buffer[] = [];
  let sizeBytes = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    sizeBytes += piece.length;
    // what is beyond any limit is let go, and its size is what counts
    if (sizeBytes <= MOST_BODY_BYTES) pieces.push(piece);
  }
  return sizeBytes <= MOST_BODY_BYTES ? Buffer.concat(pieces) : new Uint8Array(MOST_BODY_BYTES);
}

/** What devices say, one object a line. */
type DeviceLine =
  | { do: 'register'; appId: string; environment: PushEnvironment }
  | { do: 'channel'; environment: PushEnvironment; channel: string; isWanted: boolean }
  | { do: 'unregister'; appId: string };
