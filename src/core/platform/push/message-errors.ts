/**
 * What Android's messaging service answers where it does not take a message: its error codes, their HTTP status, and the
 * status of `google.rpc` (Firebase documentation, *FCM error codes*; `google.rpc.Code`).
 */
import type { ReasonWords } from './reasons.ts';

interface MessageError extends ReasonWords {
  httpStatus: number;
  rpcStatus: string;
}

export const MESSAGE_ERRORS = {
  INVALID_ARGUMENT: {
    httpStatus: 400,
    rpcStatus: 'INVALID_ARGUMENT',
    why: 'A field of the request is wrong, or the token is none.',
    remedy: 'Read the named field in the answer; try the message with fenlok try payload.',
  },
  THIRD_PARTY_AUTH_ERROR: {
    httpStatus: 401,
    rpcStatus: 'UNAUTHENTICATED',
    why: 'A key for another push service (iOS, web) is missing or was refused there.',
    remedy: 'Upload a key that is valid for this app.',
  },
  UNAUTHENTICATED: {
    httpStatus: 401,
    rpcStatus: 'UNAUTHENTICATED',
    why: 'The access token is missing, wrong or expired.',
    remedy: 'Get a new one with the key of the service account.',
  },
  PERMISSION_DENIED: {
    httpStatus: 403,
    rpcStatus: 'PERMISSION_DENIED',
    why: 'The service account may not send for this project.',
    remedy: 'Take the account of the project that the request names, with the right to send.',
  },
  SENDER_ID_MISMATCH: {
    httpStatus: 403,
    rpcStatus: 'PERMISSION_DENIED',
    why: 'The token is of an app that was built with the configuration of another project.',
    remedy: 'Build the release with the configuration file of the project that sends.',
  },
  UNREGISTERED: {
    httpStatus: 404,
    rpcStatus: 'NOT_FOUND',
    why: 'The app was removed, or its data was cleared: this token is no longer good.',
    remedy: 'Delete the token, and use the one that the app registers next.',
  },
  QUOTA_EXCEEDED: {
    httpStatus: 429,
    rpcStatus: 'RESOURCE_EXHAUSTED',
    why: 'Too many messages in a short time, in all or to this device.',
    remedy: 'Wait for as long as Retry-After says, then send more slowly.',
  },
  INTERNAL: {
    httpStatus: 500,
    rpcStatus: 'INTERNAL',
    why: 'Something failed in the service.',
    remedy: 'Send it again, later and later each time.',
  },
  UNAVAILABLE: {
    httpStatus: 503,
    rpcStatus: 'UNAVAILABLE',
    why: 'The service is overloaded.',
    remedy: 'Wait for as long as Retry-After says, then send it again.',
  },
} as const satisfies Record<string, MessageError>;

export type MessageErrorCode = keyof typeof MESSAGE_ERRORS;

export const isMessageError = (code: string): code is MessageErrorCode => Object.hasOwn(MESSAGE_ERRORS, code);
