/**
 * How wide a text is, in em, told from its letters alone: the mean advance of each letter over type designs for screens, in
 * steps of a twentieth. Designs stray from it by about a sixth for a word, less for a line.
 */
const WIDTHS: readonly (readonly [number, string])[] = [
  [0.25, "ijlı.,:;'’‘·|"],
  [0.3, 'I!ιΙוי'],
  [0.35, 'ft()[]{}גזןะไใโเ'],
  [0.4, 'r"“”-/\\°נา'],
  [0.45, 'Jг'],
  [0.5, 'csvxyz?*ζξτзтכלרรว'],
  [0.55, 'aekFL17–γεκνυχΓавексухчьэяГבדצךץขงจชซฐธลสอฮแ'],
  [0.65, 'ABCKRVX#ßαΒΚΛΡΥΧъБВРСУХЯאהחטמסקฑตผฝศษฬ'],
  [0.7, 'DGU&ΑΔΗΘΟАКЛЧЭתםพฟ'],
  [0.75, 'HNOQφψΝΠΩмфДИНОПЦש'],
  [0.8, 'w…ωΦΨжыюФ'],
  [0.85, '%шщæœ'],
  [0.9, 'mM@—ΜМฌญฒณ'],
  [0.95, 'WØШ'],
  [1, 'ЖЩЮÆŒ'],
];
const KNOWN = new Map(
  WIDTHS.flatMap(([width, letters]) => [...letters].map((letter) => [letter, width] as const)),
);
KNOWN.set(' ', 0.26);
// Any other letter of these alphabets.
const USUAL = 0.6;

// Of scripts whose letters change with their neighbours: a mean of all.
const ARABIC = 0.42;
const INDIC_LETTER = 0.58;
const INDIC_SIGN = 0.27;
const SPACING_SIGNS = /[\u0903\u093b\u093e-\u0940\u0949-\u094c\u0982\u0983\u09be-\u09c0]/u;
const MEASURED =
  /^[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{Script=Hebrew}\p{Script=Arabic}\p{Script=Devanagari}\p{Script=Bengali}\p{Script=Thai}\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}\p{N}\p{P}\p{Sc}\p{Sm}\p{M}\p{Z}]*$/u;

/** In em; undefined where a letter is of a script, or a sign, that is not known here. */
export function widthInEm(text: string): number | undefined {
  if (!MEASURED.test(text)) return undefined;
  let sum = 0;
  for (const letter of text.normalize('NFC')) sum += widthOf(letter);
  return sum;
}

function widthOf(letter: string): number {
  const known = KNOWN.get(letter);
  if (known !== undefined) return known;
  if (/\p{Script=Arabic}/u.test(letter)) return /\p{M}/u.test(letter) ? 0 : ARABIC;
  if (SPACING_SIGNS.test(letter)) return INDIC_SIGN;
  if (/[\p{M}\u200b-\u200f\u202a-\u202e]/u.test(letter)) return 0;
  if (/[\p{Script=Devanagari}\p{Script=Bengali}]/u.test(letter)) return INDIC_LETTER;
  if (/[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u.test(letter)) return 1;
  const base = letter.normalize('NFD')[0]!;
  return base === letter ? USUAL : widthOf(base);
}
