/** The limits where a team names none; each is explained beside its schema. */
export const standardLimits = {
  textContrast: 4.5,
  largeTextContrast: 3,
  largeTextCountedIn: 'dp',
  iconContrast: 3,
  androidTargetDp: 48,
  iosTargetPt: 44,
  longScreenStops: 15,
  upscale: 1.34,
  textGrowth: 1,
  startMs: 2000,
} as const;
