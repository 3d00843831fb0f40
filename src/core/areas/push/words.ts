export const STATES: Record<string, string> = {
  front: 'while the app is in front',
  background: 'while the app is in background',
  'not-running': 'while the app is not running',
};
