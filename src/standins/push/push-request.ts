/** What a provider sends, and what a device gets of it. */

export interface PushRequest {
  method: string;
  path: string;
  /** By small names, without those that begin with a colon. */
  headers: Readonly<Record<string, string>>;
  /** Names of headers that came more than once. */
  repeated?: readonly string[];
  body: Uint8Array;
  /** The connection that it came on: provider tokens are counted by connection. */
  connection?: object;
}

export interface DeliveredPush {
  appId: string;
  id: string;
  headers: Readonly<Record<string, string>>;
  payload: string;
}
