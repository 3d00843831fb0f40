/** A push message as it would be sent, taken apart. */

type PayloadForm = 'apple' | 'android';

/** What a person reads of it: written out, or a key of the app's catalogues with what is filled in. */
export type PayloadText = { text: string } | { key: string; args: string[] };

export interface PayloadProblem {
  code: string;
  /** `aps.alert.loc-args`, or `header apns-priority`. */
  at: string;
  found: string;
  expected: string;
  /** A gateway refuses an error; a warning is let through, and does something else than was meant. */
  level: 'error' | 'warning';
}

export interface PushPayload {
  form: PayloadForm;
  /** Of the body as it is; of Android messages what counts towards the limit. */
  sizeBytes: number;
  limitBytes: number;
  title?: PayloadText;
  subtitle?: PayloadText;
  body?: PayloadText;
  /** Wakes the app, and shows nothing. */
  silent: boolean;
  /** iOS: names the actions. */
  category?: string;
  /** Android. */
  channel?: string;
  badge?: number;
  /** What the app gets besides: top-level keys on iOS, `data` on Android. */
  data: Record<string, string>;
  problems: PayloadProblem[];
}
