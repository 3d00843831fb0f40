import { isMessageError, MESSAGE_ERRORS } from './message-errors.ts';
import { formatReason } from './reasons.ts';

/** Of a gateway or messaging service that did not take a message: `403 SENDER_ID_MISMATCH`, and why, with what to do. */
export function formatRefusal(status: number, reason: string): { word: string; why: string } {
  const { remedy, why } = isMessageError(reason) ? MESSAGE_ERRORS[reason] : formatReason(reason);
  return { word: `${status} ${reason}`, why: `${why} ${remedy}` };
}
