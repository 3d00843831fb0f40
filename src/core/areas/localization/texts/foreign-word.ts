/**
 * Letters of another script that look like one's own (Unicode Technical Standard 39, *Confusable Detection*; of its table
 * the letters that Latin, Cyrillic and Greek share in shape).
 */

// By letter: the Latin one that it looks like.
const LOOK_ALIKES: Record<string, string> = {
  А: 'A',
  В: 'B',
  С: 'C',
  Е: 'E',
  Н: 'H',
  І: 'I',
  Ј: 'J',
  К: 'K',
  М: 'M',
  О: 'O',
  Р: 'P',
  Ѕ: 'S',
  Т: 'T',
  Х: 'X',
  У: 'Y',
  а: 'a',
  с: 'c',
  е: 'e',
  і: 'i',
  ј: 'j',
  о: 'o',
  р: 'p',
  ѕ: 's',
  х: 'x',
  у: 'y',
  Α: 'A',
  Β: 'B',
  Ε: 'E',
  Ζ: 'Z',
  Η: 'H',
  Ι: 'I',
  Κ: 'K',
  Μ: 'M',
  Ν: 'N',
  Ο: 'O',
  Ρ: 'P',
  Τ: 'T',
  Υ: 'Y',
  Χ: 'X',
  ο: 'o',
  ν: 'v',
  α: 'a',
  ι: 'i',
};
const OTHER_SCRIPTS = /[\p{sc=Cyrillic}\p{sc=Greek}]/u;
const LATIN = /\p{sc=Latin}/u;

interface ForeignWord {
  word: string;
  /** `U+0430 for a`, for each letter out of place. */
  letters: string[];
}

/** The first word of Latin letters and letters of another script that look like Latin ones. */
export function foreignWord(text: string): ForeignWord | undefined {
  for (const [word] of text.replace(NO_WORDS, ' ').matchAll(/[\p{L}\p{M}]{2,}/gu)) {
    if (!LATIN.test(word) || !OTHER_SCRIPTS.test(word)) continue;
    const letters = outOfPlace(word);
    if (letters.length > 0) return { word, letters };
  }
  return undefined;
}

/** What is filled in, and choices of single letters: `^[yYдД]`. */
const NO_WORDS = /%(\d+\$)?\w+|\{[^{}]*\}|\[[^\][\s]+\]/g;
// A slip of the keyboard is a letter or two among others; a run of more is a word or a mark beside another word.
const LONGEST_SLIP = 2;

/** Those of the script that the word has fewer of, where each of them looks like one of the other. */
function outOfPlace(word: string): string[] {
  const runs = [...word.matchAll(/\p{sc=Latin}+|[\p{sc=Cyrillic}\p{sc=Greek}]+/gu)].map(([run]) => run);
  const own = runs.reduce((longest, run) => (run.length > longest.length ? run : longest), '');
  const others = runs.filter((run) => LATIN.test(run) !== LATIN.test(own));
  if (others.some(({ length }) => length > LONGEST_SLIP)) return [];
  const foreign = [...word].filter((char) => OTHER_SCRIPTS.test(char));
  const latin = [...word].filter((char) => LATIN.test(char));
  if (foreign.length <= latin.length) return told(foreign, (char) => LOOK_ALIKES[char]);
  const script = GREEK.test(own) ? GREEK : CYRILLIC;
  return told(latin, (char) => {
    const double = Object.keys(LOOK_ALIKES).find(
      (other) => LOOK_ALIKES[other] === char && script.test(other),
    );
    return double && code(double);
  });
}

const GREEK = /\p{sc=Greek}/u;
const CYRILLIC = /\p{sc=Cyrillic}/u;

/** Nothing, where one of them has no double: then it was written on purpose. */
function told(letters: readonly string[], doubleOf: (char: string) => string | undefined): string[] {
  const doubles = letters.map((char) => [char, doubleOf(char)] as const);
  if (doubles.some(([, double]) => double === undefined)) return [];
  return doubles.map(([char, double]) => `${code(char)} for ${double}`);
}

const code = (char: string): string =>
  `U+${char.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`;

/**
 * Whether the letters out of place are a part that the source's own word has at the same edge: `PREFIXaa`, `IUsed`.
 *
 * @param source the text that was translated
 */
export function isPartOfSource(word: string, source: string): boolean {
  const [, begin = '', end = ''] = /^(\p{sc=Latin}{0,2}).*?(\p{sc=Latin}{0,2})$/u.exec(word) ?? [];
  return (
    (begin !== '' && new RegExp(`(?<!\\p{L})${begin}(?=\\p{Lu})`, 'u').test(source)) ||
    (end !== '' && new RegExp(`(?<=\\p{Lu})${end}(?!\\p{L})`, 'u').test(source))
  );
}
