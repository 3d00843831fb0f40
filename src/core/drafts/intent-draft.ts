/** A first intent file, from what a package declares: commented YAML, with what only people know marked by "?". */
import { isMeantToShip } from '../areas/localization/texts/catalogue.ts';
import { ownTextsOf } from '../areas/localization/texts/own-texts.ts';
import type { AppPackage, Component, IosPart } from '../model/app-package.ts';
import { isLocaleTag } from '../model/locale.ts';
import { TEXTS_ELSEWHERE } from '../platform/app-toolkits.ts';
import { type Comment, commentedYaml, type DraftLine } from './commented-yaml.ts';

export interface IntentDraft {
  yaml: string;
  /** As they stand in the file, without the mark. */
  questions: string[];
}

export function draftIntent(app: AppPackage): IntentDraft {
  const lines: DraftLine[] = [
    ...appSection(app),
    'gap',
    ...localeSection(app),
    'gap',
    { ask: 'Does the app have both themes?' },
    { key: 'themes', value: ['light', 'dark'] },
    'gap',
    ...screenSection(app),
    'gap',
    ...linkSection(app),
    ...(app.traces.push.length > 0 ? MESSAGES : []),
    ...(app.traces.billing.length > 0 ? PURCHASES : []),
    ...(app.traces.ads.length > 0 ? ADS : []),
    'gap',
    LIMITS,
  ];
  const comments = lines.flatMap((line) =>
    line === 'gap' ? [] : 'key' in line ? (line.inside ?? []) : [line],
  );
  return {
    yaml: commentedYaml(lines),
    questions: comments.flatMap((comment) => ('ask' in comment ? [comment.ask] : [])),
  };
}

const notes = (...texts: readonly string[]): Comment[] => texts.map((note) => ({ note }));

// Editors with a YAML language server check and complete by it, where Fenlok is installed beside the app.
const SCHEMA = 'yaml-language-server: $schema=node_modules/fenlok/docs/schemas/intent.json';

const appSection = ({ build, name }: AppPackage): DraftLine[] => [
  { note: SCHEMA },
  {
    note: `What ${plainLine(name)} should be. Written from ${plainLine(`${build.version} (${build.build})`)} as a start; it is yours to edit.`,
  },
  { key: 'fenlok', value: 'intent/1' },
  {
    key: 'app',
    value: { id: build.appId },
    inside: [
      { ask: 'Which build do users have now? The candidate must be higher.' },
      { note: 'shipped: { version: "1.0", build: "1" }' },
    ],
  },
];

const MOST_TEXTS_LISTED = 20;

function localeSection(app: AppPackage): DraftLine[] {
  const { meant, others } = splitLocales(app);
  const alone = textsInNoOtherLanguage(app);
  const lines: DraftLine[] = [
    { ask: 'Which language is the source, that is: which one do the texts without a language speak?' },
    { key: 'sourceLocale', value: sourceLocaleOf(app) },
    { ask: 'Which languages are meant to ship? These hold most of the texts.' },
    { key: 'locales', value: [sourceLocaleOf(app), ...meant] },
  ];
  if (others.length > 0)
    lines.push({
      note: `The package also speaks, with few texts: ${others.join(', ')}. Most likely a library brought them.`,
    });
  for (const { toolkit } of app.madeWith) {
    const texts = TEXTS_ELSEWHERE[toolkit];
    if (texts)
      lines.push({
        ask: `Where are the texts? Those of ${toolkit} stand in ${texts.where}: add ${texts.add}.`,
      });
  }
  if (alone.length === 0) return lines;
  lines.push(
    { ask: 'Which texts are the same in every language on purpose? No language has these:' },
    { key: 'untranslated', value: alone.slice(0, MOST_TEXTS_LISTED) },
  );
  if (alone.length > MOST_TEXTS_LISTED)
    lines.push({ note: `… and ${alone.length - MOST_TEXTS_LISTED} more.` });
  return lines;
}

function screenSection(app: AppPackage): DraftLine[] {
  const { libraries, screens, unnamed } = app.ios ? controllersOf(app.ios) : screensOf(app);
  return [
    {
      ask: 'Which screens are there, and what do you call them? Behind each stands what the package starts.',
    },
    {
      key: 'screens',
      value: screens.map(({ id }) => ({ id })),
      behind: screens.map(({ from }) => from),
    },
    ...(unnamed > 0
      ? notes(
          `${unnamed} more in its storyboards ${unnamed === 1 ? 'has' : 'have'} no identifier; screens that code makes stand in no package: a roam finds them.`,
        )
      : []),
    ...(app.ios && screens.length === 0 && unnamed === 0
      ? notes('Code makes all of its screens, and no package names those: a roam finds them.')
      : []),
    ...(libraries.length > 0
      ? notes(`Left out, since libraries most likely brought them: ${libraries.join(', ')}.`)
      : []),
    {
      ask: 'Which combinations must be covered? This asks for every screen in the source language and both themes.',
    },
    { key: 'coverage', value: [{ locales: [sourceLocaleOf(app)] }] },
  ];
}

const linkSection = (app: AppPackage): DraftLine[] => [
  { ask: 'Which private schemes must a browser be able to open?' },
  {
    key: 'links',
    value: { schemes: privateSchemes(app), hosts: linkHosts(app) },
    inside: [
      { ask: 'Which links does the app promise, and where does each land? Name an argument in braces.' },
      ...notes('routes:', '  - { id: sailing, url: "/sailings/{sailing}", screen: sailing }'),
    ],
  },
];

const MESSAGES: DraftLine[] = [
  'gap',
  {
    ask: 'Which messages does it send? The payload stands in a file beside this one; a tap lands on the screen.',
  },
  ...notes('push:', '  messages:', '    - { id: delay, payload: push/delay.json, screen: sailing }'),
];

const PURCHASES: DraftLine[] = [
  'gap',
  { ask: 'What does it sell? The last step of `buy` touches the button that buys it.' },
  ...notes(
    'purchases:',
    '  products:',
    '    - { id: pass.month, kind: subscription, period: P1M, buy: [{ tap: buy_button }] }',
  ),
];

const ADS: DraftLine[] = [
  'gap',
  {
    ask: 'Where does it show ads, and which networks are asked? Each is described in a file: docs/purchases-and-ads.md.',
  },
  ...notes(
    'ads:',
    '  networks: [networks/mine.yaml]',
    '  placements:',
    '    - { id: top, format: banner, waterfall: [{ network: mine, parameters: { unit: "1" } }] }',
  ),
];

const LIMITS: Comment = {
  note: 'Limits have defaults (text 4.5 : 1, large text 3 : 1, targets 48 dp or 44 pt); write "limits:" to change them.',
};

/** What stands in a package may hold anything; in a comment it must not begin a new line. */
const plainLine = (text: string): string => text.replace(/[\p{Cc}\u2028\u2029]+/gu, ' ').slice(0, 200);

function sourceLocaleOf(app: AppPackage): string {
  const region = app.ios?.info.CFBundleDevelopmentRegion;
  return typeof region === 'string' && isLocaleTag(region) ? region : 'en';
}

function splitLocales(app: AppPackage): { meant: string[]; others: string[] } {
  const texts = ownTextsOf(app);
  const keys = new Map<string, Set<string>>();
  for (const { key, locale } of texts) keys.set(locale, (keys.get(locale) ?? new Set()).add(key));
  const counts = new Map([...keys].map(([locale, of]) => [locale, of.size]));
  const translated = new Set(texts.filter(({ locale }) => locale !== 'default').map(({ key }) => key)).size;
  const locales = app.locales.filter((locale) => locale !== sourceLocaleOf(app) && isLocaleTag(locale));
  return {
    meant: locales.filter((locale) => isMeantToShip(locale, counts, translated)),
    others: locales.filter((locale) => !isMeantToShip(locale, counts, translated)),
  };
}

function textsInNoOtherLanguage(app: AppPackage): string[] {
  if (app.locales.length === 0) return [];
  const texts = ownTextsOf(app);
  const translated = new Set(texts.filter(({ locale }) => locale !== 'default').map(({ key }) => key));
  const source = new Set(texts.filter(({ locale }) => locale === 'default').map(({ key }) => key));
  return [...source].filter((key) => !translated.has(key));
}

interface Screens {
  screens: { id: string; from: string }[];
  libraries: string[];
  /** Of iOS, those without an identifier. */
  unnamed: number;
}

/** On iOS what storyboards name, in each the one that it begins with first. */
function controllersOf({ storyboards }: IosPart): Screens {
  const seen = new Set<string>();
  return {
    screens: storyboards
      .flatMap(({ controllers, entry, name }) =>
        controllers
          .toSorted((a, b) => Number(b === entry) - Number(a === entry))
          .map((one) => ({ id: controllerId(one), from: plainLine(`${name}, ${one}`) })),
      )
      .filter(({ id }) => id !== '' && !seen.has(id) && seen.add(id)),
    libraries: [],
    unnamed: storyboards.reduce((sum, { unnamed }) => sum + unnamed, 0),
  };
}

/** On Android each activity; `SailingActivity` becomes `sailing`. */
function screensOf(app: AppPackage): Screens {
  const activities = (app.android?.manifest.components ?? []).filter(
    ({ enabled, type }) => type === 'activity' && enabled,
  );
  const own = new Set(
    [app.build.appId, ...activities.filter(isLauncher).map(({ name }) => name)].map(vendorOf),
  );
  const isOwn = ({ name }: Component) => own.has(vendorOf(name));
  const seen = new Set<string>();
  return {
    screens: activities
      .filter(isOwn)
      .map((component) => ({ id: screenId(component), from: plainLine(component.name) }))
      .filter(({ id }) => id !== '' && !seen.has(id) && seen.add(id)),
    libraries: activities.filter((one) => !isOwn(one)).map(({ name }) => plainLine(name)),
    unnamed: 0,
  };
}

const isLauncher = ({ filters }: Component): boolean =>
  filters.some(({ categories }) => categories.includes('android.intent.category.LAUNCHER'));

/** `com.example` of `com.example.ferry.MainActivity`. */
const vendorOf = (name: string): string => name.split('.').slice(0, 2).join('.');

const screenId = ({ name }: Component): string =>
  idOf(name.slice(name.lastIndexOf('.') + 1).replace(/(Activity|Screen)$/, ''));

/** `BookingViewController` becomes `booking`. */
const controllerId = (name: string): string =>
  idOf(name.replace(/(View)?Controller$|VC$|Screen$|Scene$/, ''));

const idOf = (name: string): string =>
  name
    .replace(/([a-z0-9])([A-Z])/g, '$1-$2')
    .toLowerCase()
    .replace(/[^a-z0-9-]/g, '')
    .replace(/^-+/, '');

const linkFilters = (app: AppPackage) =>
  (app.android?.manifest.components ?? [])
    .flatMap(({ filters }) => filters)
    .filter(({ actions, schemes }) => schemes.length > 0 && actions.includes('android.intent.action.VIEW'));

function privateSchemes(app: AppPackage): string[] {
  const schemes = [...linkFilters(app).flatMap((filter) => filter.schemes), ...(app.ios?.urlSchemes ?? [])];
  return [...new Set(schemes)].filter((scheme) => !/^(https?|content|file)$/i.test(scheme));
}

function linkHosts(app: AppPackage): string[] {
  const web = linkFilters(app).filter(({ schemes }) => schemes.some((scheme) => /^https?$/i.test(scheme)));
  return [
    ...new Set([
      ...web.flatMap(({ authorities }) => authorities.map(({ host }) => host)),
      ...(app.ios?.associatedDomains ?? []).flatMap((domain) => /^applinks:([^?]+)/.exec(domain)?.[1] ?? []),
    ]),
  ];
}
