import type { PushPayload } from '../../model/push-payload.ts';

/** What the request of a message has where nobody says otherwise: silent ones go in the background, with priority 5. */
export function headersFor(
  payload: Pick<PushPayload, 'silent'>,
  topic: string | undefined,
  type = payload.silent ? 'background' : 'alert',
): Record<string, string> {
  return {
    'apns-push-type': type,
    'apns-priority': type === 'background' ? '5' : '10',
    ...(topic && { 'apns-topic': topic }),
  };
}
