/**
 * Which of an iOS bundle's localizations and picture files a device uses (Apple, *Technical Q&A QA1828: How iOS
 * Determines the Language For Your App*; *Bundle Programming Guide*, Accessing a Bundle's Contents). The platform's code
 * is not open; we follow what its guides say.
 */

/**
 * The localization of a bundle that the device reads.
 *
 * @param available BCP 47 tags of the bundle's `.lproj` folders
 * @param preferred the user's languages, the first one first
 * @param developmentRegion `CFBundleDevelopmentRegion`, for a user whose languages are all missing
 */
export function selectLocalization(
  available: readonly string[],
  preferred: readonly string[],
  developmentRegion: string,
): string {
  for (const tag of preferred)
    for (const wanted of withParents(tag)) if (available.includes(wanted)) return wanted;
  for (const tag of preferred) {
    const sibling = available.find((other) => isSameLanguage(other, tag));
    if (sibling) return sibling;
  }
  return developmentRegion;
}

/** `zh-Hant-HK`, `zh-Hant`, `zh`: each without its last part. A parent in another script is none. */
function withParents(tag: string): string[] {
  const tags: string[] = [];
  const { language, region, script } = new Intl.Locale(tag).maximize();
  for (const parts of [[language, script, region], [language, region], [language, script], [language]])
    tags.push(parts.filter(Boolean).join('-'));
  return [tag, ...tags].filter((other) => new Intl.Locale(other).maximize().script === script);
}

function isSameLanguage(tag: string, other: string): boolean {
  const [a, b] = [tag, other].map((of) => new Intl.Locale(of).maximize()) as [Intl.Locale, Intl.Locale];
  return a.language === b.language && a.script === b.script;
}

/** Of the scales that a picture comes in, the one for a display: its own, else the next larger, else the largest. */
export function selectScale(available: readonly number[], displayScale: number): number | undefined {
  const sorted = [...available].sort((a, b) => a - b);
  return sorted.find((scale) => scale >= displayScale) ?? sorted.at(-1);
}
