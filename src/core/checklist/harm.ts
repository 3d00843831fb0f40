/** What a finding costs, by its check: what is told first where there is much to tell. */

const HARM: Readonly<Record<string, number>> = {
  // the account of the team is at risk
  'live-ad-request': 0,
  // the build cannot be shipped, or is not the one that was meant
  'nameless-build': 0,
  'debug-build': 0,
  'release-signature': 0,
  'version-not-raised': 0,
  'entitlement-mismatch': 0,
  'required-reason': 0,
  // the app ends
  crash: 1,
  'malformed-link': 1,
  'service-type': 1,
  // money is taken twice, or given back by the store
  'resold-purchase': 1,
  'unfinished-purchase': 1,
  // people cannot do something at all
  'lost-screen': 2,
  'push-environment': 2,
  'push-token': 2,
  'push-setup': 2,
  'push-permission': 2,
  'push-shown': 2,
  'push-tap': 2,
  'push-action': 2,
  'closed-link-filter': 2,
  'dead-shortcut': 2,
  'undeclared-route': 2,
  'unverified-domain': 2,
  'link-landing': 2,
  'product-ids': 2,
  'signed-sale': 2,
  'ad-wiring': 2,
  'ad-load': 2,
  'ad-after-removal': 2,
  'ad-parameter': 2,
  'test-placement': 2,
  'unpaid-purchase': 2,
  'missing-purchase': 2,
  'unrestored-purchase': 2,
  'ended-purchase': 2,
  'unnamed-control': 2,
  'unreachable-control': 2,
  'missing-default': 2,
  'native-library': 2,
  // something is lost, wrong or open to others
  'lost-state': 3,
  'way-back': 3,
  'backup-rules': 3,
  'cleartext-traffic': 3,
  'ambiguous-link': 3,
  'payload-rules': 3,
  'payload-target': 3,
  'payload-texts': 3,
  'product-offer': 3,
  'product-texts': 3,
  'shown-price': 3,
  'ad-order': 3,
  'ad-return': 3,
  'placeholder-mismatch': 3,
  'message-syntax': 3,
  'text-scaling': 3,
  'no-mirroring': 3,
};

/** 0 is the worst; what is not named is hard to use, or untidy. */
const OTHER = 4;

export const harmOf = (check: string): number => HARM[check] ?? OTHER;
export const checksWithHarm = Object.keys(HARM);
