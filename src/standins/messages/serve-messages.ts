/** The messaging service on loopback: tokens and messages over HTTP, devices on a port of their own. */
import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { MESSAGE_ERRORS, type MessageErrorCode } from '../../core/platform/push/message-errors.ts';
import { listen, readBody, stopListening } from '../http.ts';
import { serveDevices } from '../serve-devices.ts';
import { AccessTokens, type ServiceAccount } from './access-tokens.ts';
import { type FieldViolation, MessageService } from './message-service.ts';

/** What senders and devices need to know of the service; `fenlok standin messages --connection` puts it into a file. */
export interface MessagesAddress {
  fenlok: 'message-service/1';
  /** `http://127.0.0.1:PORT` */
  url: string;
  /** Of the project that the release is for. */
  serviceAccount: ServiceAccount;
  /** Of a second project, as teams have one for builds under development. */
  development: { serviceAccount: ServiceAccount };
  /** `127.0.0.1:PORT`, for devices, and what they say when they connect. */
  devices: string;
  secret: string;
}

export interface MessagesOptions {
  /** Of the release; the one under development is called `PROJECT-test`. */
  project?: string;
  port?: number;
  nowMs?(): number;
  /** How long a fault `slow` takes. */
  slowMs?: number;
  onAnswer?(project: string, status: number, code?: string): void;
}

export interface ServedMessages {
  service: MessageService;
  address: MessagesAddress;
  close(): Promise<void>;
}

const SLOW_MS = 3_000;
const MOST_BODY_BYTES = 64 * 1024;
const RETRY_AFTER_S = 10;
const PATHS = { token: '/token', send: /^\/v1\/projects\/([\w-]+)\/messages:send$/ };
const FCM_ERROR = 'type.googleapis.com/google.firebase.fcm.v1.FcmError';
const BAD_REQUEST = 'type.googleapis.com/google.rpc.BadRequest';
/** The codes of `google.rpc` alone, which the service's own errors do not list. */
const PLAIN_CODES: readonly string[] = ['UNAUTHENTICATED', 'PERMISSION_DENIED'];

type DeviceLine =
  | { do: 'register'; appId: string; project: string }
  | { do: 'unregister'; appId: string }
  | { do: 'topic'; appId: string; topic: string; isWanted: boolean }
  | { do: 'doze'; dozes: boolean };

export async function serveMessages(options: MessagesOptions = {}): Promise<ServedMessages> {
  const { nowMs = Date.now, port = 0, project = 'kelpline' } = options;
  const service = new MessageService({
    nowMs,
    newToken: () => `${randomBytes(16).toString('base64url')}:${randomBytes(100).toString('base64url')}`,
    newId: () => `0:${nowMs()}${randomBytes(3).readUIntBE(0, 3)}%${randomBytes(8).toString('hex')}`,
  });
  let tokens: AccessTokens;
  const { server, url } = await listen((request, response) => {
    serve(request, response, service, tokens, options).catch(() => response.destroy());
  }, port);
  tokens = new AccessTokens(`${url}${PATHS.token}`, nowMs);
  const secret = randomBytes(16).toString('hex');
  const devices = await serveDevices<DeviceLine>(
    {
      connect: (deviceId, deliver) => service.connect(deviceId, deliver),
      disconnect: (deviceId) => service.disconnect(deviceId),
      onLine: (deviceId, line) => takeLine(service, deviceId, line),
    },
    secret,
  );
  return {
    service,
    address: {
      fenlok: 'message-service/1',
      url,
      serviceAccount: await tokens.addAccount(project),
      development: { serviceAccount: await tokens.addAccount(`${project}-test`) },
      devices: devices.address,
      secret,
    },
    close: async () => {
      await Promise.all([devices.close(), stopListening(server)]);
    },
  };
}

function takeLine(service: MessageService, deviceId: string, line: DeviceLine): object | undefined {
  switch (line.do) {
    case 'register':
      return {
        did: 'register',
        appId: line.appId,
        token: service.register(deviceId, line.appId, line.project),
      };
    case 'unregister':
      service.unregister(deviceId, line.appId);
      return undefined;
    case 'topic':
      service.subscribe(deviceId, line.appId, line.topic, line.isWanted);
      return undefined;
    case 'doze':
      service.doze(deviceId, line.dozes);
      return undefined;
    default:
      return line satisfies never;
  }
}

async function serve(
  request: IncomingMessage,
  response: ServerResponse,
  service: MessageService,
  tokens: AccessTokens,
  { onAnswer, slowMs = SLOW_MS }: MessagesOptions,
): Promise<void> {
  const say = (status: number, body: object, headers: Record<string, string> = {}) => {
    if (response.destroyed) return;
    response.writeHead(status, { 'content-type': 'application/json; charset=UTF-8', ...headers });
    response.end(JSON.stringify(body));
  };
  const path = new URL(request.url ?? '/', 'http://stand.in').pathname;
  const text = await readBody(request, MOST_BODY_BYTES);
  if (path === PATHS.token && request.method === 'POST') {
    const answer = await tokens.grant(new URLSearchParams(text ?? ''));
    say('error' in answer ? 400 : 200, answer);
    return;
  }
  const project = PATHS.send.exec(decodeURIComponent(path))?.[1];
  if (project === undefined || request.method !== 'POST') {
    say(404, { error: { code: 404, message: 'Not found.', status: 'NOT_FOUND' } });
    return;
  }
  const refuse = (code: MessageErrorCode, message: string, violations?: FieldViolation[]) => {
    const { httpStatus } = MESSAGE_ERRORS[code];
    onAnswer?.(project, httpStatus, code);
    const isRetried = code === 'UNAVAILABLE' || code === 'QUOTA_EXCEEDED';
    say(
      httpStatus,
      { error: statusOf(code, message, violations) },
      isRetried ? { 'retry-after': String(RETRY_AFTER_S) } : {},
    );
  };
  const fault = service.nextFault();
  if (fault === 'drop') {
    request.socket.destroy();
    return;
  }
  if (fault === 'slow') await new Promise((resolve) => setTimeout(resolve, slowMs));
  else if (fault !== undefined) {
    refuse(fault as MessageErrorCode, MESSAGE_ERRORS[fault as MessageErrorCode].why);
    return;
  }
  const allowed = tokens.projectOf(request.headers.authorization);
  if (allowed === undefined) {
    refuse('UNAUTHENTICATED', 'Request had invalid authentication credentials.');
    return;
  }
  if (allowed !== project) {
    refuse('PERMISSION_DENIED', `Permission denied on resource project ${project}.`);
    return;
  }
  const answer = text === undefined ? TOO_LARGE : service.send(project, jsonIn(text));
  if ('error' in answer) refuse(answer.error, answer.message, answer.violations);
  else {
    onAnswer?.(project, 200);
    say(200, answer);
  }
}

const TOO_LARGE = {
  error: 'INVALID_ARGUMENT',
  message: `Request payload size exceeds the limit: ${MOST_BODY_BYTES} bytes.`,
  violations: undefined,
} as const;

function jsonIn(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** `google.rpc.Status`, as JSON has it. */
const statusOf = (code: MessageErrorCode, message: string, violations: FieldViolation[] = []) => ({
  code: MESSAGE_ERRORS[code].httpStatus,
  message,
  status: MESSAGE_ERRORS[code].rpcStatus,
  details: [
    ...(PLAIN_CODES.includes(code) ? [] : [{ '@type': FCM_ERROR, errorCode: code }]),
    ...(violations.length > 0 ? [{ '@type': BAD_REQUEST, fieldViolations: violations }] : []),
  ],
});
