export const HOW: Record<string, string> = {
  cold: 'when the app is not running',
  warm: 'when the app was left',
  front: 'when the app is in front',
};

export const VARIANTS: Record<string, string> = {
  plain: 'as promised',
  http: 'with http',
  host: 'on another host of the app',
  slash: 'with the slash at its end changed',
  encoded: 'with an argument that is encoded',
  query: 'with a query behind it',
  fragment: 'with a fragment behind it',
  'argument-missing': 'incomplete',
  'argument-malformed': 'malformed',
  'bad-escape': 'wrongly escaped',
  'too-long': 'very long',
};
