/**
 * A colour of the app that makes a pair too faint, replaced by the nearest one that passes, in the source file that gives its value.
 * It is tried on every pair of the layouts that draws it first: a value that breaks another pair is not proposed.
 */

import { indexFacts } from '../areas/check.ts';
import { themeContrast } from '../areas/contrast/checks/theme-contrast.ts';
import { contrastRatio, parseHex } from '../areas/contrast/colour.ts';
import type { ColourPairFact, Fact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { NoPatch, Patch, SourceFile } from '../model/patch.ts';

interface Candidate {
  name: string;
  value: string;
}

/** By check: the data that hold what is suggested, the name of the colour where it is known, and the colour as it was drawn. */
const SUGGESTED: Record<string, readonly { by: string; colour?: string; drawn: string }[]> = {
  'theme-contrast': [
    { by: 'suggestedText', colour: 'text', drawn: 'foreground' },
    { by: 'suggestedBackground', colour: 'behind', drawn: 'background' },
  ],
  'text-contrast': [
    { by: 'suggestedText', drawn: 'foreground' },
    { by: 'suggestedBackground', drawn: 'background' },
  ],
  'icon-contrast': [{ by: 'suggestedIcon', drawn: 'foreground' }],
};

export const canPatchColour = (check: string): boolean => check in SUGGESTED;

/**
 * @param finding of a check that `canPatchColour`
 * @param files those that may give values: every XML file of `values` folders under the source
 * @param facts of the package
 */
export function patchColour(
  finding: Finding,
  files: readonly SourceFile[],
  facts: readonly Fact[],
  intent: Intent,
): Patch | NoPatch {
  const { data } = finding.occurrences[0]!;
  const isNight = data.theme === 'dark';
  const reasons: string[] = [];
  const candidates = SUGGESTED[finding.check]!.flatMap(({ by, colour, drawn }): Candidate[] => {
    const value = data[by];
    if (typeof value !== 'string') return [];
    const name = colour ? data[colour] : nameOfValue(String(data[drawn]), files, isNight, reasons);
    return typeof name === 'string' && name.startsWith('color/') ? [{ name, value }] : [];
  });
  if (candidates.length === 0)
    return { why: reasons.join('; ') || 'no colour resource of the app can be changed for it' };
  const pairs = facts.filter((fact) => fact.kind === 'colour-pair');
  for (const { name, value } of candidates) {
    const given = valuesOf(name.slice('color/'.length), files, isNight);
    if (given.length !== 1) {
      reasons.push(
        given.length === 0
          ? `no values file under the source gives ${name} as a plain colour`
          : `${name} is given in ${given.map(({ file }) => file.path).join(' and ')}`,
      );
      continue;
    }
    const [{ at, file, written, reachesNight }] = given as [Given];
    // a value of the day counts by night as well, where the night has none of its own
    const reaches = (night: boolean) => (isNight && !reachesNight ? night : !night || reachesNight);
    const changed = withColour(pairs, name, written, value, reaches);
    const repaint = repaintWith(written, value, reaches);
    const broken = [...brokenBy(pairs, changed, intent), ...brokenOnScreens(facts, repaint, intent)];
    if (broken.length > 0) {
      reasons.push(`${name} ${value} would make ${broken.join(' and ')} too faint`);
      continue;
    }
    if (failing(changed, intent).has(identityOf(finding.identity))) {
      reasons.push(`${name} ${value} would not be enough`);
      continue;
    }
    const after = `${file.text.slice(0, at)}${asWritten(value, written)}${file.text.slice(at + written.length)}`;
    const drawn = changed.filter((pair, i) => pair !== pairs[i]);
    const pairAfter = new Map<Fact, Fact>(pairs.map((pair, i) => [pair, changed[i]!]));
    return {
      edits: [{ path: file.path, before: file.text, after }],
      says: `${name} ${written} becomes ${asWritten(value, written)}`,
      facts: facts.map((fact) => pairAfter.get(fact) ?? repaint(fact)),
      proof: proofOf(drawn.length, finding.check),
    };
  }
  return { why: reasons.join('; ') };
}

/** The one colour that has the value which was seen in a picture; two that have it are no answer. */
function nameOfValue(
  drawn: string,
  files: readonly SourceFile[],
  isNight: boolean,
  reasons: string[],
): string | undefined {
  const wanted = `${parseHex(drawn)}`;
  const names = [...namesIn(files)].filter((name) => {
    const given = valuesOf(name, files, isNight);
    return given.some(({ written }) => `${parseHex(written)}` === wanted);
  });
  if (names.length === 1) return `color/${names[0]}`;
  reasons.push(
    names.length === 0
      ? `no colour of the source has the value ${drawn}`
      : `${names.map((name) => `color/${name}`).join(' and ')} all have the value ${drawn}`,
  );
  return undefined;
}

const namesIn = (files: readonly SourceFile[]): Set<string> =>
  new Set(
    files.flatMap(({ text }) =>
      [...text.matchAll(/<(?:color|item)\b[^>]*\bname="([\w.]+)"/g)].map(([, name]) => name!),
    ),
  );

interface Given {
  file: SourceFile;
  /** Where its value begins. */
  at: number;
  written: string;
  /** By night nothing else is given. */
  reachesNight: boolean;
}

function valuesOf(name: string, files: readonly SourceFile[], isNight: boolean): Given[] {
  const inFolder = (folder: string) =>
    files.filter(({ path }) => path.split('/').at(-2) === folder).flatMap((file) => valueIn(file, name));
  const [day, night] = [inFolder('values'), inFolder('values-night')];
  // by night the value of the day counts where there is no other
  const given = isNight && night.length > 0 ? night : day;
  return given.map((one) => ({ ...one, reachesNight: night.length === 0 }));
}

function valueIn(file: SourceFile, name: string): Omit<Given, 'reachesNight'>[] {
  // comments keep their place, and are not read
  const text = file.text.replaceAll(/<!--.*?-->/gs, (comment) => ' '.repeat(comment.length));
  const pattern = new RegExp(
    `<(color|item)\\b[^>]*\\bname="${name.replaceAll('.', '\\.')}"[^>]*>\\s*(#[0-9a-fA-F]{3,8})\\s*</\\1>`,
    'g',
  );
  return [...text.matchAll(pattern)].map((match) => ({
    file,
    at: match.index + match[0].lastIndexOf(match[2]!),
    written: match[2]!,
  }));
}

type Repaint = (fact: Fact) => Fact;

/** What a capture shows in that colour, or on it, as it would be; the interval moves with the ratio. */
const repaintWith =
  (written: string, value: string, reaches: (night: boolean) => boolean): Repaint =>
  (fact) => {
    if ((fact.kind !== 'text-contrast' && fact.kind !== 'icon-contrast') || fact.unseen) return fact;
    if (!reaches(fact.cell.theme === 'dark')) return fact;
    const before = `${parseHex(written)}`;
    const repainted = (hex: string) => (`${parseHex(hex)}` === before ? value : hex);
    const [foreground, background] = [repainted(fact.foreground), repainted(fact.background)];
    if (foreground === fact.foreground && background === fact.background) return fact;
    const ratio = contrastRatio(parseHex(foreground)!, parseHex(background)!);
    const moved = (of: number) => Math.min(21, Math.max(1, (of * ratio) / fact.ratio));
    const [least, most] = fact.interval;
    return { ...fact, foreground, background, ratio, interval: [moved(least), moved(most)] };
  };

/** What would fall below a limit that it keeps now. */
function brokenOnScreens(facts: readonly Fact[], repaint: Repaint, { limits }: Intent): string[] {
  const kept = [limits.largeTextContrast, limits.textContrast, limits.iconContrast];
  return facts.flatMap((fact) => {
    const after = repaint(fact);
    if (after === fact || !('ratio' in after && 'ratio' in fact && 'element' in fact)) return [];
    const falls = kept.some((limit) => fact.ratio >= limit && after.ratio < limit);
    return falls ? [`“${fact.element.shown}” on ${fact.cell.screen}`] : [];
  });
}

const proofOf = (count: number, check: string): string =>
  `${count === 0 ? 'no layout draws it' : `checked on the ${count === 1 ? 'one pair' : `${count} pairs`} of the layouts that draw it: none comes to fail`}; on the captures no other text or icon comes to fail. ${
    check === 'theme-contrast'
      ? 'Texts that code colours'
      : 'It is the one colour that has the value which was seen; whether the screen draws it'
  } ${check === 'theme-contrast' ? 'show' : 'shows'} only in a rebuilt app.`;

/** In the letters of the file. */
const asWritten = (value: string, before: string): string =>
  /[A-F]/.test(before) ? value.toUpperCase() : value.toLowerCase();

function withColour(
  pairs: readonly ColourPairFact[],
  name: string,
  written: string,
  value: string,
  reaches: (night: boolean) => boolean,
): ColourPairFact[] {
  const [before, after] = [parseHex(written), parseHex(value)!];
  const isThat = (drawn: string) => before !== undefined && `${parseHex(drawn)}` === `${before}`;
  return pairs.map((pair) => {
    if (!reaches(pair.night)) return pair;
    const foreground = pair.textName === name && isThat(pair.foreground) ? value : pair.foreground;
    const background = pair.backgroundName === name && isThat(pair.background) ? value : pair.background;
    if (foreground === pair.foreground && background === pair.background) return pair;
    const [ink, ground] = [foreground, background].map((hex) => (hex === value ? after : parseHex(hex)!));
    return { ...pair, foreground, background, ratio: contrastRatio(ink!, ground!) };
  });
}

const identityOf = ({ aspect, subject }: { subject: string; aspect?: string | undefined }): string =>
  `${subject}|${aspect}`;

/** Identities of the pairs that do not pass, and their ratios. */
function failing(pairs: readonly ColourPairFact[], intent: Intent): Map<string, number> {
  const found = new Map<string, number>();
  for (const assertion of themeContrast.run(indexFacts(pairs), intent)) {
    if (!('draft' in assertion)) continue;
    const { identity, occurrence } = assertion.draft;
    const name = identityOf(identity);
    found.set(name, Math.min(found.get(name) ?? 21, Number(occurrence.data.ratio)));
  }
  return found;
}

/** Pairs that fail now and did not, or that fail by more. */
function brokenBy(
  before: readonly ColourPairFact[],
  after: readonly ColourPairFact[],
  intent: Intent,
): string[] {
  const was = failing(before, intent);
  return [...failing(after, intent)]
    .filter(([name, ratio]) => ratio < (was.get(name) ?? 21) - 0.005)
    .map(([name]) =>
      name.replace('|', ' in the ').replace('dark', 'dark theme').replace('light', 'light theme'),
    );
}
