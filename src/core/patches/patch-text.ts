/**
 * A text of `strings.xml` with a character too many or an escape that comes out wrong, put right where it is written. What the
 * reader of such files and the check say of the file afterwards is tried before it is proposed.
 */

import { indexFacts } from '../areas/check.ts';
import { invisibleCharacter } from '../areas/localization/checks/invisible-character.ts';
import { straySpace } from '../areas/localization/checks/stray-space.ts';
import { swallowedEscape } from '../areas/localization/checks/swallowed-escape.ts';
import { textFact } from '../areas/localization/texts/text-fact.ts';
import { readAndroidStrings } from '../formats/catalogues/android-strings.ts';
import { localeOfPath } from '../formats/catalogues/read-catalogue.ts';
import type { CatalogueTextFact, Fact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { NoPatch, Patch, SourceFile } from '../model/patch.ts';

const CHECKS = [invisibleCharacter, straySpace, swallowedEscape];

export const canPatchText = (check: string): boolean => CHECKS.some(({ id }) => id === check);

/**
 * @param finding of a check that `canPatchText`
 * @param files every XML file of `values` folders under the source
 * @param facts of the candidate
 */
export function patchText(
  finding: Finding,
  files: readonly SourceFile[],
  facts: readonly Fact[],
  intent: Intent,
): Patch | NoPatch {
  const { form, key, text } = finding.occurrences[0]!.data as { form: string; key: string; text: string };
  if (form !== '') return { why: 'plurals and lists are not patched' };
  const fact = facts.find(
    (one): one is CatalogueTextFact =>
      one.kind === 'catalogue-text' && one.key === key && one.text === text && one.form === undefined,
  );
  if (!fact) return { why: 'its text is not among what was measured' };
  const places = files.flatMap((file) => placeIn(file, fact));
  if (places.length !== 1)
    return {
      why:
        places.length === 0
          ? `no values file under the source gives ${key} as a plain text in ${fact.locale}`
          : `${key} is given in ${places.map(({ file }) => file.path).join(' and ')}`,
    };
  const [{ at, file, raw }] = places as [Place];
  const written = rewrite(finding, raw);
  if (written === raw) return { why: 'nothing in the file can be changed for it by rule' };
  const after = `${file.text.slice(0, at)}${written}${file.text.slice(at + raw.length)}`;
  const tried = tryText(file, after, fact, { facts, finding, intent });
  if ('why' in tried) return tried;
  return {
    edits: [{ path: file.path, before: file.text, after }],
    says: `string/${key} ${JSON.stringify(raw)} becomes ${JSON.stringify(written)}`,
    facts: tried.facts,
    proof:
      'read again as the packer reads it: this check passes it, and every other text of the file is as it was.',
  };
}

interface Place {
  file: SourceFile;
  /** Where what is written in the element begins. */
  at: number;
  raw: string;
}

const entriesOf = ({ path, text }: SourceFile) =>
  readAndroidStrings(text.replace(/^\uFEFF/, ''), path, localeOfPath(path)).entries;

function placeIn(file: SourceFile, { key, locale, text }: CatalogueTextFact): Place[] {
  const isThere = entriesOf(file).some(
    (entry) =>
      entry.key === key && entry.locale === locale && entry.kind === 'text' && entry.forms[0]?.text === text,
  );
  if (!isThere) return [];
  // comments keep their place, and are not read; what holds markup is left to a person
  const plain = file.text.replaceAll(/<!--.*?-->/gs, (comment) => ' '.repeat(comment.length));
  const name = key.replaceAll('.', '\\.');
  const pattern = new RegExp(`<string\\b[^>]*\\bname="${name}"[^>]*>([^<]*)${END}`, 'g');
  return [...plain.matchAll(pattern)].map(({ 0: element, 1: raw = '', index }) => ({
    file,
    at: index + element.length - END.length - raw.length,
    raw,
  }));
}

const END = '</string>';

function rewrite({ check, occurrences }: Finding, raw: string): string {
  const { data } = occurrences[0]!;
  if (check === 'invisible-character')
    return data.unbalanced ? raw : withoutCharacters(raw, data.characters as string[]);
  if (check === 'stray-space') return withoutBlanks(raw, String(data.fault));
  return data.fault === 'swallowed' ? withEscapes(raw) : unescapedOnce(raw, String(data.escape));
}

/** @param characters as findings name them, by their code points */
function withoutCharacters(raw: string, characters: readonly string[]): string {
  let left = raw;
  for (const [, hex] of characters.join(' ').matchAll(/U\+([0-9A-F]{4,6})/g)) {
    const code = Number.parseInt(hex!, 16);
    left = left
      .replaceAll(String.fromCodePoint(code), '')
      .replaceAll(new RegExp(`\\\\u${hex}|&#x0*${hex};|&#0*${code};`, 'gi'), '');
  }
  return left;
}

const withoutBlanks = (raw: string, fault: string): string =>
  fault === 'leading'
    ? raw.replace(/^("?)[ \u00a0]+/, '$1')
    : fault === 'trailing'
      ? raw.replace(/[ \u00a0]+("?)$/, '$1')
      : fault === 'doubled'
        ? raw.replaceAll(/ {2,}/g, ' ')
        : raw;

const KNOWN_ESCAPE = /[nt"'@?#\\u]/;

/** A backslash before each bare apostrophe outside quotes, and before each that begins no escape. */
function withEscapes(raw: string): string {
  let written = '';
  let isQuoted = false;
  for (let i = 0; i < raw.length; i++) {
    const char = raw[i]!;
    if (char === '\\') {
      const next = raw[i + 1] ?? '';
      written += KNOWN_ESCAPE.test(next) ? char + next : `\\\\${next}`;
      i += 1;
      continue;
    }
    if (char === '"') isQuoted = !isQuoted;
    written += char === "'" && !isQuoted ? "\\'" : char;
  }
  return written;
}

/** What was escaped twice, once: an entity of an entity, a backslash of a backslash. */
const unescapedOnce = (raw: string, leftOver: string): string =>
  leftOver.startsWith('&')
    ? raw.replaceAll(`&amp;${leftOver.slice(1)}`, leftOver === '&nbsp;' ? '\u00a0' : leftOver)
    : raw.replaceAll(`\\\\${leftOver.slice(1)}`, leftOver);

interface Tried {
  facts: readonly Fact[];
  finding: Finding;
  intent: Intent;
}

/** The facts with the change; it is none where another text came out otherwise, or the check finds what it did not find before. */
function tryText(
  file: SourceFile,
  written: string,
  fact: CatalogueTextFact,
  { facts, finding, intent }: Tried,
): NoPatch | { facts: readonly Fact[] } {
  const [was, now] = [entriesOf(file), entriesOf({ ...file, text: written })];
  const isOther = ({ key }: { key: string }) => key !== fact.key;
  if (JSON.stringify(was.filter(isOther)) !== JSON.stringify(now.filter(isOther)))
    return { why: 'another text of the file would come out otherwise' };
  const form = now.find(({ key }) => key === fact.key)?.forms[0];
  if (!form) return { why: 'the text would be gone' };
  const { swallowed: _, escape: __, invisible: ___, ...rest } = fact;
  const changed = textFact({
    ...rest,
    text: form.text,
    ...(form.swallowed && { swallowed: form.swallowed }),
  });
  const check = CHECKS.find(({ id }) => id === finding.check)!;
  const found = (list: readonly Fact[]): string[] =>
    [...check.run(indexFacts(list), intent)].flatMap((one) =>
      'draft' in one ? [`${one.draft.identity.subject} in ${one.draft.identity.aspect}`] : [],
    );
  const before = new Set(found(facts));
  const after = facts.map((one) => (one === fact ? changed : one));
  const left = found(after);
  const own = `${finding.identity.subject} in ${finding.identity.aspect}`;
  if (left.includes(own)) return { why: 'the check would still find it' };
  const more = left.find((one) => !before.has(one));
  return more ? { why: `the check would find ${more}` } : { facts: after };
}
