/** The gateway's reasons: their status, what they mean, and what to do (Apple developer documentation, *Handling notification responses from APNs*). */

export interface ReasonWords {
  why: string;
  remedy: string;
}

/** By status of the answer. */
const DOCUMENTED: Readonly<Record<number, Readonly<Record<string, ReasonWords>>>> = {
  400: {
    BadChannelId: { why: 'The channel id is no Base64.', remedy: 'Give the id that came when it was made.' },
    CannotCreateChannelConfig: {
      why: 'The channel cannot be made: its storage policy is neither 0 nor 1, or there are too many.',
      remedy: 'Give message-storage-policy 0 or 1; delete channels that nobody needs.',
    },
    ChannelNotRegistered: {
      why: 'This app has no such channel in this environment.',
      remedy: 'Make it first, with the same gateway.',
    },
    MissingChannelId: { why: 'The request names no channel.', remedy: 'Give apns-channel-id.' },
    MissingPushType: {
      why: 'The request names no push type.',
      remedy: 'Give push-type LiveActivity in the body.',
    },
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
      why: 'The token is of another app, or the topic is not the one of this push type.',
      remedy:
        'Give the bundle id of the app that the token is from, with the ending of the push type, as .voip or .push-type.liveactivity.',
    },
    DuplicateHeaders: { why: 'A header comes more than once.', remedy: 'Give each header once.' },
    IdleTimeout: {
      why: 'Nothing was sent on this connection for long.',
      remedy: 'Connect again, and send it again.',
    },
    InvalidPushType: {
      why: 'There is no such push type.',
      remedy: 'Give alert, background or another of the documented types.',
    },
    MissingDeviceToken: { why: 'The request names no token.', remedy: 'Give the token of a device.' },
    MissingTopic: { why: 'The request names no topic.', remedy: 'Give the bundle id of the app as topic.' },
    PayloadEmpty: { why: 'The request has no body.', remedy: 'Send a payload.' },
    TopicDisallowed: {
      why: 'The key or certificate may not send to this topic.',
      remedy: 'Look whether the key is restricted to other topics, and whether the app is of the same team.',
    },
  },
  403: {
    BadCertificate: {
      why: "The certificate of the connection is none of this gateway's.",
      remedy: 'Look whether it is for push, and whether it has expired or was revoked.',
    },
    BadCertificateEnvironment: {
      why: 'The certificate is for the other environment.',
      remedy: 'Send to the environment that the certificate was made for.',
    },
    BadEnvironmentKeyIdInToken: {
      why: 'The key may not be used in this environment.',
      remedy: 'Take a key that was made for this environment, or for both.',
    },
    ExpiredProviderToken: {
      why: 'The provider token is older than an hour.',
      remedy: 'Make a new one, and see to the clock of the sending machine.',
    },
    Forbidden: {
      why: 'The gateway does not allow this.',
      remedy: 'Look what the key or the certificate may do.',
    },
    InvalidProviderToken: {
      why: 'The signature of the provider token does not hold, its key id or team is not known, or it was made in the future.',
      remedy:
        'Look whether key file, key id and team belong together, whether the key was revoked, and at the clock of the sending machine.',
    },
    MissingProviderToken: {
      why: 'The request has no provider token.',
      remedy: 'Sign the request with the key of the team.',
    },
    UnrelatedKeyIdInToken: {
      why: 'The key id of this provider token is not that of the first one on this connection.',
      remedy: 'Use one key on each connection.',
    },
  },
  404: {
    BadPath: { why: 'The path of the request is wrong.', remedy: 'Send to /3/device/TOKEN.' },
  },
  405: {
    MethodNotAllowed: { why: 'The request is no POST.', remedy: 'Send it as POST.' },
  },
  410: {
    ExpiredToken: {
      why: 'The token has expired.',
      remedy: 'Take it out of your list; the app registers again when it is opened.',
    },
    Unregistered: {
      why: 'The app is no longer on that device, or it was installed again and has another token.',
      remedy: 'Take the token out of your list, and wait until the app registers again.',
    },
  },
  413: {
    PayloadTooLarge: {
      why: 'The payload is over 4096 bytes.',
      remedy: 'Send less, and let the app fetch the rest.',
    },
  },
  429: {
    TooManyProviderTokenUpdates: {
      why: 'Provider tokens are renewed oftener than every 20 minutes.',
      remedy: 'Use one token for all requests, for 20 to 60 minutes.',
    },
    TooManyRequests: {
      why: 'Too many messages went to this device one after another.',
      remedy: 'Wait, and send fewer.',
    },
  },
  500: {
    InternalServerError: { why: 'The gateway is in trouble.', remedy: 'Send it again later.' },
  },
  503: {
    ServiceUnavailable: { why: 'The gateway is not available.', remedy: 'Send it again later.' },
    Shutdown: { why: 'The gateway is shutting down.', remedy: 'Connect again, and send it again.' },
  },
};

/** By reason, the status that it comes with. */
export const REASON_STATUS: ReadonlyMap<string, number> = new Map(
  Object.entries(DOCUMENTED).flatMap(([status, reasons]) =>
    Object.keys(reasons).map((reason) => [reason, Number(status)] as const),
  ),
);

export const formatReason = (reason: string): ReasonWords =>
  DOCUMENTED[REASON_STATUS.get(reason) ?? 0]?.[reason] ?? {
    why: 'This reason is not documented.',
    remedy: 'Look into the documentation of the gateway.',
  };
