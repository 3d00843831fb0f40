/**
 * Placeholders in texts: on Android those of java.util.Formatter, which `getString` fills in (Java SE 17, *Format String
 * Syntax*); on iOS those of NSString (Apple, *String Format Specifiers*), with `%@` and lengths such as `ll`.
 */
import type { Platform } from '../../model/candidate.ts';

// A blank is a flag there too, but in running text "5 % of" is no placeholder, so it is not taken for one.
const PLACEHOLDER: Record<Platform, RegExp> = {
  android: /%(?:(\d+)\$)?[-#+0,(]*\d*(?:\.\d+)?([a-zA-Z%])/g,
  ios: /%(?:(\d+)\$)?[-#+0']*\d*(?:\.\d+)?(?:hh|h|ll|l|q|z|t|j|L)?([a-zA-Z@%])/g,
};
const NO_ARGUMENT = new Set(['%', 'n']);

/** Canonical `position:conversion`, in order of position, each once: `%2$d of %1$s` gives `1:s`, `2:d`. */
export function findPlaceholders(text: string, platform: Platform = 'android'): string[] {
  let next = 1;
  const found = new Set<string>();
  for (const [, position, conversion] of text.matchAll(PLACEHOLDER[platform]))
    if (!NO_ARGUMENT.has(conversion!)) found.add(`${position ?? next++}:${conversion!.toLowerCase()}`);
  return [...found].sort((a, b) => Number.parseInt(a, 10) - Number.parseInt(b, 10));
}
