/** Types of foreground services (Android developers, *Foreground service types*; `ServiceInfo.FOREGROUND_SERVICE_TYPE_…`). */

const TYPES: [name: string, flag: number, permission: string | undefined][] = [
  ['dataSync', 0x1, 'FOREGROUND_SERVICE_DATA_SYNC'],
  ['mediaPlayback', 0x2, 'FOREGROUND_SERVICE_MEDIA_PLAYBACK'],
  ['phoneCall', 0x4, 'FOREGROUND_SERVICE_PHONE_CALL'],
  ['location', 0x8, 'FOREGROUND_SERVICE_LOCATION'],
  ['connectedDevice', 0x10, 'FOREGROUND_SERVICE_CONNECTED_DEVICE'],
  ['mediaProjection', 0x20, 'FOREGROUND_SERVICE_MEDIA_PROJECTION'],
  ['camera', 0x40, 'FOREGROUND_SERVICE_CAMERA'],
  ['microphone', 0x80, 'FOREGROUND_SERVICE_MICROPHONE'],
  ['health', 0x100, 'FOREGROUND_SERVICE_HEALTH'],
  ['remoteMessaging', 0x200, 'FOREGROUND_SERVICE_REMOTE_MESSAGING'],
  ['systemExempted', 0x400, 'FOREGROUND_SERVICE_SYSTEM_EXEMPTED'],
  ['shortService', 0x800, undefined],
  ['mediaProcessing', 0x2000, 'FOREGROUND_SERVICE_MEDIA_PROCESSING'],
  ['specialUse', 0x40000000, 'FOREGROUND_SERVICE_SPECIAL_USE'],
];

/** Names of the types that a manifest's flags stand for. */
export const serviceTypesOf = (flags: number): string[] =>
  TYPES.filter(([, flag]) => (flags & flag) !== 0).map(([name]) => name);

/** The permission that a type asks for besides FOREGROUND_SERVICE; undefined where it asks for none. */
export function permissionOfType(type: string): string | undefined {
  const permission = TYPES.find(([name]) => name === type)?.[2];
  return permission && `android.permission.${permission}`;
}
