import type { Platform } from '../../../model/candidate.ts';
import type { EntryKind, TextSyntax } from '../../../model/catalogue.ts';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { syntaxOfText } from '../../../platform/text/icu.ts';
import { measureText } from '../../../platform/text/measure-text.ts';
import { foreignWord } from './foreign-word.ts';
import { invisibleCharacters } from './invisible-characters.ts';

interface GivenText {
  platform: Platform;
  evidence: string;
  catalogue: string;
  key: string;
  entry: EntryKind;
  locale: string;
  form?: string;
  text: string;
  syntax: TextSyntax;
  swallowed?: string[];
  neededForms?: string[];
  numbers?: number[];
  reference?: boolean;
  translatable?: false;
  file?: string;
  line?: number;
}

/** The fact of one text. Most texts hold nothing that stands out, so that all those facts are alike, and quick to read. */
export function textFact(given: GivenText): CatalogueTextFact {
  const { text } = given;
  const syntax = syntaxOfText(text, given.syntax);
  const measured = measureText(text, syntax);
  const fact: CatalogueTextFact = {
    kind: 'catalogue-text',
    platform: given.platform,
    evidence: given.evidence,
    catalogue: given.catalogue,
    key: given.key,
    entry: given.entry,
    locale: given.locale,
    text,
    syntax,
    placeholders: measured.placeholders,
  };
  if (given.form !== undefined) fact.form = given.form;
  if (given.file !== undefined) fact.file = given.file;
  if (given.line !== undefined) fact.line = given.line;
  if (measured.unnumbered) fact.unnumbered = true;
  if (measured.faults) fact.faults = measured.faults;
  if (measured.tags) fact.tags = measured.tags;
  if (given.swallowed) fact.swallowed = given.swallowed;
  if (given.neededForms) fact.neededForms = given.neededForms;
  if (given.numbers) fact.numbers = given.numbers;
  if (given.reference) fact.reference = true;
  if (given.translatable === false) fact.translatable = false;
  const scripts = scan(text);
  if (scripts & ESCAPED) {
    const escaped = LEFT_OVER.exec(text);
    if (escaped) fact.escape = escaped[0];
  }
  if (scripts & INVISIBLE) {
    const characters = invisibleCharacters(text);
    if (characters) fact.invisible = characters;
  }
  if ((scripts & BOTH) === BOTH) {
    const word = foreignWord(text);
    if (word) fact.foreign = word;
  }
  return fact;
}

/** A backslash between quotes is one that is spoken of. */
const LEFT_OVER =
  /(?<!['"‘“«„])\\['"]|\\(?:[nt@?]|u[0-9a-fA-F]{4})|&(?:amp|lt|gt|quot|apos|nbsp|#\d+|#[xX][0-9a-fA-F]+);/;

const INVISIBLE = 1;
const LATIN = 2;
const GREEK_OR_CYRILLIC = 4;
const ESCAPED = 8;
const BOTH = LATIN | GREEK_OR_CYRILLIC;

/** One walk over the characters tells which of the closer looks a text needs; most need none. */
function scan(text: string): number {
  let found = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code < 0x80) {
      if ((code | 0x20) >= 0x61 && (code | 0x20) <= 0x7a) found |= LATIN;
      else if (code === 0x5c || code === 0x26) found |= ESCAPED;
      else if (code < 0x20 && code !== 0x0a && code !== 0x09 && code !== 0x0d) found |= INVISIBLE;
    } else if (code < 0xa0) found |= INVISIBLE;
    else if (code >= 0x370 && code < 0x530) found |= GREEK_OR_CYRILLIC;
    else if (code >= 0x200b && (code < 0x2010 || (code >= 0x202a && code < 0x2070) || code >= 0xfe00))
      found |= INVISIBLE;
  }
  return found;
}
