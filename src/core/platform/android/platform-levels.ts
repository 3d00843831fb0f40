/** API levels and the versions of Android that have them (Android developers, *<uses-sdk>*, What is API Level?). */

/** The newest that is known here. */
export const NEWEST_LEVEL = 36;

// By level, from 1 on; where a level has several names, the last.
const VERSIONS = [
  '1.0 1.1 1.5 1.6 2.0 2.0.1 2.1 2.2 2.3 2.3.7 3.0 3.1 3.2 4.0.2 4.0.4 4.1 4.2 4.3 4.4 4.4W 5.0 5.1 6 7.0 7.1',
  '8.0 8.1 9 10 11 12 12L 13 14 15 16',
]
  .join(' ')
  .split(' ');

/** `Android 7.0`, or the level by its number where no version has it. */
export const formatLevel = (level: number): string =>
  VERSIONS[level - 1] ? `Android ${VERSIONS[level - 1]}` : `level ${level}`;

/** `Android 5.0 to 6 (levels 21 to 23)`, `Android 11 and later (levels from 30 on)`. */
export function formatLevels(from: number, until?: number): string {
  if (until === undefined || until >= NEWEST_LEVEL)
    return `${formatLevel(from)} and later (levels from ${from} on)`;
  if (from === until) return `${formatLevel(from)} (level ${from})`;
  return `${formatLevel(from)} to ${formatLevel(until).replace('Android ', '')} (levels ${from} to ${until})`;
}
