/**
 * Where the platform's question for a rating can appear (Android developers, *Test in-app reviews*; Apple, *Requesting App Store
 * reviews*). Both are silent: an app is told that it is done, and not whether anything was shown.
 */
import type { Platform } from '../model/candidate.ts';
import type { RatingChannel } from '../model/rating.ts';

/** `quota`: now and then, by rules that no app is told. */
type PromptShows = 'never' | 'always' | 'quota' | 'unknown';

const ANDROID: Record<RatingChannel, PromptShows> = {
  local: 'never',
  // with its button to send switched off
  'private-share': 'always',
  'test-track': 'quota',
  beta: 'quota',
  production: 'quota',
};
const IOS: Record<RatingChannel, PromptShows> = {
  local: 'always',
  'private-share': 'unknown',
  'test-track': 'never',
  beta: 'never',
  production: 'quota',
};

/** @param channel undefined where nobody says which one it was */
export const promptShows = (platform: Platform, channel: RatingChannel | undefined): PromptShows =>
  channel === undefined ? 'unknown' : (platform === 'android' ? ANDROID : IOS)[channel];

/** Where it can be seen for certain. */
export const SURE_CHANNEL: Record<Platform, string> = {
  android: "the store's private share link",
  ios: 'a build that a developer installs on the device',
};

/** In so many days iOS shows it at most three times. */
export const IOS_QUOTA = { count: 3, days: 365 };
