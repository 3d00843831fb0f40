/** What a gateway's reasons mean, and what to do (Apple developer documentation, *Handling notification responses from APNs*). */

export interface ReasonWords {
  why: string;
  remedy: string;
}

const REASONS: Readonly<Record<string, ReasonWords>> = {
  BadCollapseId: { why: 'The collapse id is longer than 64 bytes.', remedy: 'Shorten it.' },
  BadDeviceToken: {
    why: 'The token is none of this gateway: it is mistyped, or it belongs to the other environment.',
    remedy:
      'Look at how the app is signed: a development build gets tokens of the development gateway, a release those of production.',
  },
  BadExpirationDate: { why: 'The expiration is no number.', remedy: 'Give seconds since 1970, or 0.' },
  BadMessageId: { why: 'The id is no UUID.', remedy: 'Leave it out, or give a UUID.' },
  BadPriority: {
    why: 'The priority does not go with the type.',
    remedy: 'Give 5 for the type background, else 10, 5 or 1.',
  },
  BadTopic: { why: 'The topic is no bundle id.', remedy: 'Give the bundle id of the app.' },
  DeviceTokenNotForTopic: {
    why: 'The token is of another app.',
    remedy: 'Give the topic of the app that the token is from.',
  },
  InvalidPushType: {
    why: 'There is no such push type.',
    remedy: 'Give alert, background or another of the documented types.',
  },
  MissingDeviceToken: { why: 'The request names no token.', remedy: 'Give the token of a device.' },
  MissingTopic: { why: 'The request names no topic.', remedy: 'Give the bundle id of the app as topic.' },
  PayloadEmpty: { why: 'The request has no body.', remedy: 'Send a payload.' },
  ExpiredProviderToken: {
    why: 'The provider token is older than an hour.',
    remedy: 'Make a new one, and see to the clock of the sending machine.',
  },
  InvalidProviderToken: {
    why: 'The signature of the provider token does not hold, or its key id or team is not known.',
    remedy: 'Look whether key file, key id and team belong together, and whether the key was revoked.',
  },
  MissingProviderToken: {
    why: 'The request bears no provider token.',
    remedy: 'Sign the request with the key of the team.',
  },
  BadPath: { why: 'The path of the request is wrong.', remedy: 'Send to /3/device/TOKEN.' },
  MethodNotAllowed: { why: 'The request is no POST.', remedy: 'Send it as POST.' },
  ExpiredToken: {
    why: 'The token has expired.',
    remedy: 'Take it out of your list; the app registers anew when it is opened.',
  },
  Unregistered: {
    why: 'The app is no longer on that device, or it was installed anew and has another token.',
    remedy: 'Take the token out of your list, and wait until the app registers again.',
  },
  PayloadTooLarge: {
    why: 'The payload is over 4096 bytes.',
    remedy: 'Send less, and let the app fetch the rest.',
  },
  TooManyProviderTokenUpdates: {
    why: 'Provider tokens are renewed oftener than every 20 minutes.',
    remedy: 'Use one token for all requests, for 20 to 60 minutes.',
  },
  TooManyRequests: {
    why: 'Too many messages went to this device one after another.',
    remedy: 'Wait, and send fewer.',
  },
  InternalServerError: { why: 'The gateway is in trouble.', remedy: 'Send it again later.' },
  ServiceUnavailable: { why: 'The gateway is not available.', remedy: 'Send it again later.' },
  Shutdown: { why: 'The gateway is shutting down.', remedy: 'Connect anew, and send it again.' },
};

export const sayReason = (reason: string): ReasonWords =>
  REASONS[reason] ?? {
    why: 'This reason is not documented.',
    remedy: 'Look into the documentation of the gateway.',
  };
