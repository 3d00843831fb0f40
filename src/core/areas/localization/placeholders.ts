/** Placeholders of java.util.Formatter, which Android's `getString` fills in (Java SE 17, *Format String Syntax*). */

// A blank is a flag there too, but in running text "5 % of" is no placeholder, so it is not taken for one.
const PLACEHOLDER = /%(?:(\d+)\$)?[-#+0,(]*\d*(?:\.\d+)?([a-zA-Z%])/g;
const NO_ARGUMENT = new Set(['%', 'n']);

/** Canonical `position:conversion`, in order of position, each once: `%2$d of %1$s` gives `1:s`, `2:d`. */
export function findPlaceholders(text: string): string[] {
  let next = 1;
  const found = new Set<string>();
  for (const [, position, conversion] of text.matchAll(PLACEHOLDER))
    if (!NO_ARGUMENT.has(conversion!)) found.add(`${position ?? next++}:${conversion!.toLowerCase()}`);
  return [...found].sort((a, b) => Number.parseInt(a, 10) - Number.parseInt(b, 10));
}
