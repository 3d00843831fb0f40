/**
 * By push type, what its topic has behind the bundle id (Apple developer documentation, *Sending notification requests
 * to APNs*). That of `mdm` is an id of its own, from the certificate.
 */
const TOPIC_ENDINGS: Readonly<Record<string, string>> = {
  alert: '',
  background: '',
  location: '.location-query',
  voip: '.voip',
  complication: '.complication',
  fileprovider: '.pushkit.fileprovider',
  mdm: '',
  liveactivity: '.push-type.liveactivity',
  pushtotalk: '.voip-ptt',
  widgets: '.push-type.widgets',
  controls: '.push-type.controls',
};

/** `apns-push-type`. */
export const PUSH_TYPES: readonly string[] = Object.keys(TOPIC_ENDINGS);

/** `apns-topic` of a message of this type to this app. */
export const topicFor = (appId: string, type: string): string => `${appId}${TOPIC_ENDINGS[type] ?? ''}`;
