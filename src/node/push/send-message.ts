/**
 * Sends messages to Android apps (Firebase documentation, *projects.messages.send*), with an access token for a service
 * account (RFC 7523).
 */
import { importPKCS8, SignJWT } from 'jose';
import { z } from 'zod';
import { UnreadableError } from '../../core/model/problem.ts';
import { isObject, type PlainObject } from '../../core/platform/push/field-rules.ts';
import type { MessageServiceFile, ServiceAccount } from './message-service-file.ts';
import { GatewayOutOfReach, type PushAnswered, type PushSender } from './send-push.ts';

const ANSWERS_WITHIN_MS = 10_000;
const SCOPE = 'https://www.googleapis.com/auth/firebase.messaging';
const GRANT = 'urn:ietf:params:oauth:grant-type:jwt-bearer';
const ASSERTION_LIFE_S = 3600;
/** So much before its end a token is given up. */
const TOKEN_SPARE_MS = 60_000;

interface AccessToken {
  token: string;
  goodUntilMs: number;
}

const grantedSchema = z.object({ access_token: z.string(), expires_in: z.number() });
const takenSchema = z.object({ name: z.string() });
const refusedSchema = z.object({
  error: z.object({ status: z.string().optional(), details: z.array(z.looseObject({})).optional() }),
});

/** @throws UnreadableError where the key of an account cannot be read */
export async function messageSender(
  file: MessageServiceFile,
  {
    answersWithinMs = ANSWERS_WITHIN_MS,
    nowMs = Date.now,
  }: { answersWithinMs?: number; nowMs?(): number } = {},
): Promise<PushSender> {
  const accounts = { production: file.production, development: file.development };
  const tokens = new Map<string, Promise<AccessToken>>();
  for (const account of Object.values(accounts)) if (account) await keyOf(account);
  const ask = async (url: string, init: RequestInit): Promise<Response> => {
    try {
      return await fetch(url, { ...init, redirect: 'error', signal: AbortSignal.timeout(answersWithinMs) });
    } catch (error) {
      throw new GatewayOutOfReach(
        (error as Error).name === 'TimeoutError'
          ? `the messaging service at ${url} gives no answer within ${answersWithinMs / 1000} s`
          : `the messaging service at ${url} cannot be reached (${causeOf(error as Error)})`,
      );
    }
  };
  const tokenFor = async (account: ServiceAccount): Promise<string> => {
    const before = await tokens.get(account.client_email)?.catch(() => undefined);
    if (before && before.goodUntilMs > nowMs()) return before.token;
    const asked = askForToken(account, ask, nowMs);
    tokens.set(account.client_email, asked);
    return (await asked).token;
  };
  return {
    service: 'messages',
    environments: accounts.development ? ['production', 'development'] : ['production'],
    send: async ({ body, environment, token }) => {
      const account = accounts[environment];
      if (!account)
        throw new UnreadableError({
          code: 'message-service.no-account',
          found: 'no project for development',
          expected: 'development: with the service account of that project',
        });
      const bearer = await tokenFor(account);
      const response = await ask(`${file.url}/v1/projects/${account.project_id}/messages:send`, {
        method: 'POST',
        headers: { authorization: `Bearer ${bearer}`, 'content-type': 'application/json' },
        body: JSON.stringify({ message: { ...messageIn(body), token } }),
      });
      return answerIn(response.status, await jsonOf(response));
    },
    close: () => {},
  };
}

async function askForToken(
  account: ServiceAccount,
  ask: (url: string, init: RequestInit) => Promise<Response>,
  nowMs: () => number,
): Promise<AccessToken> {
  const nowS = Math.floor(nowMs() / 1000);
  const assertion = await new SignJWT({ scope: SCOPE })
    .setProtectedHeader({ alg: 'RS256', typ: 'JWT', kid: account.private_key_id })
    .setIssuer(account.client_email)
    .setAudience(account.token_uri)
    .setIssuedAt(nowS)
    .setExpirationTime(nowS + ASSERTION_LIFE_S)
    .sign(await keyOf(account));
  const response = await ask(account.token_uri, {
    method: 'POST',
    body: new URLSearchParams({ grant_type: GRANT, assertion }),
  });
  const answer = await jsonOf(response);
  const granted = grantedSchema.safeParse(answer);
  if (granted.success)
    return {
      token: granted.data.access_token,
      goodUntilMs: nowMs() + granted.data.expires_in * 1000 - TOKEN_SPARE_MS,
    };
  const { error, error_description: why } = (isObject(answer) ? answer : {}) as Record<string, unknown>;
  throw new GatewayOutOfReach(
    `${account.token_uri} grants ${account.client_email} no access token: ${response.status} ${[error, why].filter(Boolean).join(', ')}`,
  );
}

const keyOf = (account: ServiceAccount) =>
  importPKCS8(account.private_key, 'RS256').catch(() => {
    throw new UnreadableError({
      code: 'message-service.key',
      found: `the private key of ${account.client_email} cannot be read`,
      expected: 'PKCS #8 in PEM, of an RSA key',
    });
  });

/** The message of a file, addressed to nobody yet. */
function messageIn(body: Uint8Array): PlainObject {
  const json: unknown = JSON.parse(new TextDecoder().decode(body));
  const message = isObject(json) && isObject(json.message) ? json.message : (json as PlainObject);
  const { condition: _condition, token: _token, topic: _topic, ...rest } = message;
  return rest;
}

function answerIn(status: number, answer: unknown): PushAnswered {
  const taken = takenSchema.safeParse(answer);
  if (status === 200 && taken.success) return { status, id: taken.data.name };
  const refused = refusedSchema.safeParse(answer);
  if (!refused.success) return { status, id: '' };
  const { details = [], status: rpcStatus } = refused.data.error;
  const code = details.map(({ errorCode }) => errorCode).find((one) => typeof one === 'string');
  return { status, id: '', ...((code ?? rpcStatus) && { reason: String(code ?? rpcStatus) }) };
}

const jsonOf = (response: Response): Promise<unknown> => response.json().catch(() => undefined);

const causeOf = ({ cause, message }: Error): string =>
  (cause as NodeJS.ErrnoException | undefined)?.code ?? message;
