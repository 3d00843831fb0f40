/**
 * A candidate and the one after it, both made from Kelpline by chance: defects are planted, kept and taken away, screens are
 * restyled, dropped and added, elements and texts renamed or removed, the app id gets a suffix. What must become of each
 * defect follows from what was changed and from where the layout puts its element; nothing here knows how candidates are compared.
 */
import { contrastRatio, parseHex } from '../../src/core/areas/contrast/colour.ts';
import { readHierarchy } from '../../src/core/formats/android/hierarchy.ts';
import type { CatalogueEntry } from '../../src/core/model/catalogue.ts';
import type { Cell } from '../../src/core/model/cell.ts';
import type { Change } from '../../src/core/model/comparison.ts';
import type { Fact } from '../../src/core/model/fact.ts';
import { decodeImage } from '../../src/node/decode-image.ts';
import type { Element, PhoneApp } from '../../src/standins/phone/app-model.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import type { Phone } from '../../src/standins/phone/phone.ts';
import type { Placed } from '../../src/standins/phone/screen/layout.ts';
import { observeScreen } from './facts.ts';
import { textFacts } from './texts.ts';

const THEMES = ['light', 'dark'] as const;
type Theme = (typeof THEMES)[number];
type DefectKind = 'faint' | 'nameless' | 'file-name';

interface Defect {
  screen: string;
  id: string;
  kind: DefectKind;
}

/** What makes one candidate: nothing of it is told to the checks. */
export interface Candidate {
  appId: string;
  screens: string[];
  defects: Defect[];
  /** By `screen|id`. */
  renamed: ReadonlyMap<string, string>;
  removed: ReadonlySet<string>;
  /** Screens with other paddings. */
  restyled: ReadonlySet<string>;
  texts: readonly CatalogueEntry[];
}

export type Pick = <T>(from: readonly T[]) => T;

export function pickFrom(seed: number): Pick {
  let state = seed;
  return (from) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return from[Math.floor((state / 2 ** 32) * from.length)]!;
  };
}

/** Elements that a defect can stand on, by screen: one of a name, in sight, and with nothing planted on it yet. */
export async function findPlaces(
  phone: Phone,
  colours: Record<Theme, ReadonlyMap<string, string>>,
): Promise<Defect[]> {
  const places: Defect[] = [];
  for (const screen of SCREENS) {
    const { placed } = await phone.show({ screen, locale: 'en', theme: 'light', textScale: 1 });
    const all = flatten(placed);
    const ids = all.map(({ element }) => element.id);
    for (const { background, element } of all) {
      const { id } = element;
      if (!id || ids.indexOf(id) !== ids.lastIndexOf(id) || PLANTED.has(`${screen}|${id}`)) continue;
      if (
        element.kind === 'text' &&
        element.sizeSp >= 13 &&
        element.text.length > 3 &&
        element.enabled !== false
      ) {
        const isFaint = THEMES.every((theme) => ratioOf(colours[theme], background) < 2.4);
        if (isFaint) places.push({ screen, id, kind: 'faint' });
      }
      if (element.clickable && element.contentDescription && element.className?.endsWith('ImageButton'))
        places.push({ screen, id, kind: 'nameless' }, { screen, id, kind: 'file-name' });
    }
  }
  return places;
}

const ratioOf = (colours: ReadonlyMap<string, string>, background: string): number =>
  contrastRatio(parseHex(colours.get(FAINT)!)!, parseHex(colours.get(background)!)!);

const SCREENS = ['timetable', 'sailing', 'booking', 'alerts', 'settings', 'signIn'];
const FAINT = 'outline';
/** Kelpline's own defects of the checks that are looked at here. */
const PLANTED = new Set([
  'timetable|notice_text',
  'timetable|swap_direction',
  'alerts|alert_dismiss',
  'settings|sign_out_label',
]);

const CHECK_OF: Record<DefectKind, string> = {
  faint: 'text-contrast',
  nameless: 'unnamed-control',
  'file-name': 'meaningless-name',
};
export const SCREEN_CHECKS = Object.values(CHECK_OF);

/** A text's defect: a blank before it, which the platform drops. */
export const TEXT_CHECK = 'stray-space';

const some = <T>(pick: Pick, from: readonly T[], count: number): T[] => {
  const rest = [...from];
  return Array.from(
    { length: Math.min(count, rest.length) },
    () => rest.splice(rest.indexOf(pick(rest)), 1)[0]!,
  );
};
const onePerElement = (defects: readonly Defect[]): Defect[] => [
  ...new Map(defects.map((defect) => [`${defect.screen}|${defect.id}`, defect])).values(),
];

export function makePair(
  pick: Pick,
  places: readonly Defect[],
  texts: readonly CatalogueEntry[],
): [Candidate, Candidate] {
  const first = onePerElement(some(pick, places, 9));
  const kept = first.filter(() => pick([true, true, false]));
  const added = some(pick, places, 5).filter(
    (one) => !first.some(({ id, screen }) => id === one.id && screen === one.screen),
  );
  const second = onePerElement([...kept, ...added]);
  const touched = onePerElement([...first, ...second]);
  const keyOf = ({ id, screen }: Defect) => `${screen}|${id}`;
  const renamed = some(pick, touched, 2).map((defect) => [keyOf(defect), `${defect.id}_of_now`] as const);
  const removed = some(pick, touched, 1).map(keyOf);
  const plain = texts.filter(
    ({ forms, kind, locale }) => kind === 'text' && locale === 'de' && forms[0]!.text.length > 12,
  );
  const spaced = some(pick, plain, 4);
  const [stays, goes, moves, comes] = spaced;
  const withBlank = (keys: readonly CatalogueEntry[]) =>
    texts.map((entry) =>
      keys.includes(entry) ? { ...entry, forms: [{ form: '', text: ` ${entry.forms[0]!.text}` }] } : entry,
    );
  return [
    {
      appId: kelpline.appId,
      screens: some(pick, SCREENS, 5),
      defects: first,
      renamed: new Map(),
      removed: new Set(),
      restyled: new Set(),
      texts: withBlank([stays!, goes!, moves!]),
    },
    {
      appId: pick([kelpline.appId, `${kelpline.appId}.beta`]),
      screens: some(pick, SCREENS, 5),
      defects: second,
      renamed: new Map(renamed),
      removed: new Set(removed),
      restyled: new Set(some(pick, SCREENS, 2)),
      texts: withBlank([stays!, moves!, comes!]).map((entry) =>
        entry.key === moves!.key ? { ...entry, key: `${entry.key}_of_now` } : entry,
      ),
    },
  ];
}

/** The app of a candidate: Kelpline, with its screens' elements changed as they are built. */
export function appOf(candidate: Candidate): PhoneApp {
  const screens = Object.fromEntries(
    Object.entries(kelpline.screens).map(([screen, model]) => [
      screen,
      {
        ...model,
        view: ((app, state) => change(model.view(app, state), screen, candidate)) as typeof model.view,
      },
    ]),
  );
  return { ...kelpline, screens };
}

function change(element: Element, screen: string, candidate: Candidate): Element {
  const key = `${screen}|${element.id}`;
  const defect = candidate.defects.find((one) => `${one.screen}|${one.id}` === key)?.kind;
  const changed = { ...element, id: candidate.renamed.get(key) ?? element.id };
  if (defect === 'faint' && changed.kind === 'text') changed.colour = FAINT;
  if (defect === 'nameless') changed.contentDescription = undefined;
  if (defect === 'file-name') changed.contentDescription = 'ic_anchor_24.png';
  if (changed.kind !== 'box') return changed;
  const { gap } = changed.style;
  return {
    ...changed,
    style: candidate.restyled.has(screen) && gap ? { ...changed.style, gap: gap + 5 } : changed.style,
    children: changed.children
      .filter(({ id }) => !candidate.removed.has(`${screen}|${id}`))
      .map((child) => change(child, screen, candidate)),
  };
}

export interface Seen {
  facts: Fact[];
  /** Elements that are wholly in sight, and those of which a part is, by `screen|id` as the candidate names them. */
  whole: Set<string>;
  partly: Set<string>;
}

/** Captures of every screen in both themes, and the facts of the texts. */
export async function observeCandidate(candidate: Candidate, phone: Phone): Promise<Seen> {
  const seen: Seen = { facts: textFacts(candidate.texts), whole: new Set(), partly: new Set() };
  for (const screen of candidate.screens)
    for (const theme of THEMES) {
      const cell: Partial<Cell> & { screen: string; theme: Theme } = { screen, theme, locale: 'en' };
      const { hierarchyXml, placed, png } = await phone.show({ screen, theme, locale: 'en', textScale: 1 });
      const xml = hierarchyXml.replaceAll(`${kelpline.appId}:id/`, `${candidate.appId}:id/`);
      const tree = await readHierarchy('screen.xml', xml);
      if (!tree.ok) throw new Error(tree.problem.found);
      const pixels = await decodeImage('screen.png', png);
      seen.facts.push(...observeScreen(tree.value, { pixels, cell, densityDpi: phone.shape.densityDpi }));
      for (const one of flatten(placed)) {
        if (one.inSight === 'none' || !one.element.id) continue;
        (one.inSight === 'whole' ? seen.whole : seen.partly).add(`${screen}|${one.element.id}`);
      }
    }
  return seen;
}

interface Flat extends Placed {
  background: string;
  inSight: 'whole' | 'part' | 'none';
}

function flatten(placed: Placed, background = 'surface', window = placed.boundsPx): Flat[] {
  const { boundsPx: box, element } = placed;
  const own = element.style.background ?? background;
  const width = Math.min(box.x + box.width, window.x + window.width) - Math.max(box.x, window.x);
  const height = Math.min(box.y + box.height, window.y + window.height) - Math.max(box.y, window.y);
  const share = (Math.max(0, width) * Math.max(0, height)) / (box.width * box.height || 1);
  const inSight = share > 0.999 ? 'whole' : share > 0 ? 'part' : 'none';
  const below = element.scrollable ? box : window;
  return [
    { ...placed, background: own, inSight },
    ...placed.children.flatMap((child) => flatten(child, own, below)),
  ];
}

/** What may become of each finding, by `check|screen|id|aspect` as the candidate that has it names it (the later one, if both do). */
export function truthOf(
  [before, after]: readonly [Candidate, Candidate],
  seen: { before: Seen; after: Seen },
): Map<string, readonly Change[]> {
  const truth = new Map<string, readonly Change[]>();
  const keyOf = ({ id, screen }: Defect) => `${screen}|${id}`;
  const all = new Map(
    [...before.defects, ...after.defects].map((defect) => [`${keyOf(defect)}|${defect.kind}`, defect]),
  );
  for (const defect of all.values()) {
    const key = keyOf(defect);
    const name = after.renamed.get(key) ?? defect.id;
    const has = (of: Candidate) => of.defects.some((one) => keyOf(one) === key && one.kind === defect.kind);
    const sightBefore = sightOf(seen.before, key);
    const sightAfter = sightOf(seen.after, `${defect.screen}|${name}`);
    const isBefore = has(before) && sightBefore !== 'none';
    const isAfter = has(after) && sightAfter !== 'none';
    // what the edge cuts may be measured or not, so that nothing is asked of it but that no word is wrong
    const isCut = sightBefore === 'part' || sightAfter === 'part';
    const isRenamed = name !== defect.id;
    const may: readonly Change[] =
      isBefore && isAfter
        ? isRenamed
          ? ['moved']
          : SAME
        : isBefore
          ? [!isRenamed && sightAfter !== 'none' ? 'fixed' : 'not-looked-again']
          : [!isRenamed && sightBefore !== 'none' ? 'new' : 'first-look'];
    if (!isBefore && !isAfter) continue;
    const subject = isAfter ? name : defect.id;
    for (const aspect of defect.kind === 'faint' ? THEMES : [''])
      truth.set(
        `${CHECK_OF[defect.kind]}|${defect.screen}|${subject}|${aspect}`,
        isCut ? [...may, 'first-look', 'not-looked-again', 'unchanged', 'moved'] : may,
      );
  }
  return truth;
}

export const SAME: readonly Change[] = ['unchanged', 'worse', 'better'];

const sightOf = (seen: Seen, key: string): 'whole' | 'part' | 'none' =>
  seen.whole.has(key) && !seen.partly.has(key)
    ? 'whole'
    : seen.whole.has(key) || seen.partly.has(key)
      ? 'part'
      : 'none';
