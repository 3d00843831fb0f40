/** `apns-push-type` (Apple developer documentation, *Sending notification requests to APNs*). */
export const PUSH_TYPES: readonly string[] = [
  'alert',
  'background',
  'location',
  'voip',
  'complication',
  'fileprovider',
  'mdm',
  'liveactivity',
  'pushtotalk',
  'widgets',
  'controls',
];
