/** Sends messages to iOS apps over HTTP/2 (Apple developer documentation, *Sending notification requests to APNs*). */
import { type ClientHttp2Session, connect } from 'node:http2';
import { importPKCS8, SignJWT } from 'jose';
import { UnreadableError } from '../../core/model/problem.ts';
import type { GatewayFile } from './gateway-file.ts';

/** Android's messaging service has none; there development is a second project. */
export type PushEnvironment = 'production' | 'development';

export interface PushToSend {
  environment: PushEnvironment;
  token: string;
  /** `apns-topic`, `apns-push-type` and so on; nothing for Android. */
  headers: Readonly<Record<string, string>>;
  body: Uint8Array;
}

export interface PushAnswered {
  status: number;
  id: string;
  reason?: string;
}

export interface PushSender {
  service: 'gateway' | 'messages';
  environments: readonly PushEnvironment[];
  /** @throws GatewayOutOfReach */
  send(push: PushToSend): Promise<PushAnswered>;
  close(): void;
}

/** No answer, or none in time. */
export class GatewayOutOfReach extends Error {
  override name = 'OutOfReach';
}

const ANSWERS_WITHIN_MS = 10_000;
/**
 * Provider tokens may be renewed every 20 minutes, and live for an hour: one for each half hour, for every process. Where another
 * process, or this one, used that of the half hour before a moment ago, the gateway still wants that one.
 */
const TOKEN_STEP_S = 1800;
const TOKEN_LIFE_S = 3600;
/** So much before its end it is given up. */
const TOKEN_SPARE_S = 60;
const LONGEST_ANSWER = 4096;

/** @throws UnreadableError where the key cannot be read */
export async function pushSender(
  gateway: GatewayFile,
  {
    answersWithinMs = ANSWERS_WITHIN_MS,
    nowMs = Date.now,
  }: { answersWithinMs?: number; nowMs?(): number } = {},
): Promise<PushSender> {
  const sessions = new Map<PushEnvironment, ClientHttp2Session>();
  const sign = await providerSigner(gateway);
  /** Of the token that the gateway took last. */
  let takenS: number | undefined;
  const tokenTimes = (): Set<number> => {
    const nowS = Math.floor(nowMs() / 1000);
    const stepS = Math.floor(nowS / TOKEN_STEP_S) * TOKEN_STEP_S;
    const times = [takenS ?? stepS, stepS, stepS - TOKEN_STEP_S];
    return new Set(times.filter((issuedS) => nowS - issuedS < TOKEN_LIFE_S - TOKEN_SPARE_S));
  };
  const sessionFor = (environment: PushEnvironment): ClientHttp2Session => {
    const open = sessions.get(environment);
    if (open && !open.closed && !open.destroyed) return open;
    const session = connect(gateway[environment], gateway.ca === undefined ? {} : { ca: gateway.ca });
    // told by the request that runs into it
    session.on('error', () => {});
    sessions.set(environment, session);
    return session;
  };
  return {
    service: 'gateway',
    environments: ['production', 'development'],
    send: async (push) => {
      let answered: PushAnswered | undefined;
      for (const issuedS of tokenTimes()) {
        const authorization = `bearer ${await sign(issuedS)}`;
        const session = sessionFor(push.environment);
        answered = await request(session, push, authorization, gateway[push.environment], answersWithinMs);
        if (answered.reason === 'TooManyProviderTokenUpdates') continue;
        takenS = issuedS;
        break;
      }
      return answered!;
    },
    close: () => {
      for (const session of sessions.values()) session.destroy();
    },
  };
}

/** Signs once for each moment, since every signature of the same claims is another one. */
async function providerSigner({
  key,
  keyId,
  team,
}: GatewayFile): Promise<(issuedAtS: number) => Promise<string>> {
  const imported = await importPKCS8(key, 'ES256').catch(() => {
    throw new UnreadableError({
      code: 'gateway.key',
      found: `the key ${keyId} of team ${team} cannot be read`,
      expected: 'PKCS #8 in PEM, of an EC key on P-256',
    });
  });
  const signed = new Map<number, Promise<string>>();
  return (issuedAtS) => {
    const before = signed.get(issuedAtS);
    if (before) return before;
    const token = new SignJWT()
      .setProtectedHeader({ alg: 'ES256', kid: keyId })
      .setIssuer(team)
      .setIssuedAt(issuedAtS)
      .sign(imported);
    signed.set(issuedAtS, token);
    return token;
  };
}

function request(
  session: ClientHttp2Session,
  { body, headers, token }: PushToSend,
  authorization: string,
  at: string,
  answersWithinMs: number,
): Promise<PushAnswered> {
  return new Promise((resolve, reject) => {
    const stream = session.request({
      ':method': 'POST',
      ':path': `/3/device/${encodeURIComponent(token)}`,
      authorization,
      ...headers,
    });
    const fail = (why: string) => {
      clearTimeout(timer);
      stream.destroy();
      reject(new GatewayOutOfReach(`the gateway ${at} ${why}`));
    };
    const timer = setTimeout(
      () => fail(`gives no answer within ${answersWithinMs / 1000} s`),
      answersWithinMs,
    );
    let status = 0;
    let id = '';
    let text = '';
    stream.on('response', (answer) => {
      status = Number(answer[':status']);
      id = String(answer['apns-id'] ?? '');
    });
    stream.setEncoding('utf8');
    stream.on('data', (piece: string) => {
      if (text.length < LONGEST_ANSWER) text += piece;
    });
    stream.on('error', (error) => fail(`cannot be reached (${codeOf(error)})`));
    stream.on('close', () => {
      clearTimeout(timer);
      if (status === 0) fail('closed the connection without an answer');
      else resolve({ status, id, ...reasonIn(text) });
    });
    stream.end(body);
  });
}

/** Of the connection, where the request was given up for its sake. */
function codeOf(error: Error): string {
  const { code, message } = (error.cause ?? error) as NodeJS.ErrnoException;
  return code ?? message;
}

function reasonIn(text: string): { reason?: string } {
  try {
    const { reason } = JSON.parse(text) as { reason?: unknown };
    return typeof reason === 'string' ? { reason } : {};
  } catch {
    return {};
  }
}
