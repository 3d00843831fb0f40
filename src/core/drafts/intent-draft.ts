/** A first intent file, from what a package declares: commented YAML, with what only people know marked by "?". */
import { isMeantToShip } from '../areas/localization/texts/catalogue.ts';
import { ownTextsOf } from '../areas/localization/texts/own-texts.ts';
import type { AppPackage, Component } from '../model/app-package.ts';
import { isLocaleTag } from '../model/locale.ts';
import { TEXTS_ELSEWHERE } from '../platform/app-toolkits.ts';

export interface IntentDraft {
  yaml: string;
  /** As they stand in the file, without the mark. */
  questions: string[];
}

/** A line of the file; a question is marked, and counted. */
type Line = string | { ask: string; indent?: string };

export function draftIntent(app: AppPackage): IntentDraft {
  const sections = [
    appSection(app),
    localeSection(app),
    [{ ask: 'Does the app have both themes?' }, 'themes: [light, dark]'],
    screenSection(app),
    linkSection(app),
    ...(app.traces.push.length > 0 ? [MESSAGES] : []),
    ...(app.traces.billing.length > 0 ? [PURCHASES] : []),
    ...(app.traces.ads.length > 0 ? [ADS] : []),
    LIMITS,
  ];
  const write = (line: Line): string =>
    typeof line === 'string' ? line : `${line.indent ?? ''}# ? ${line.ask}`;
  return {
    yaml: `${sections.map((lines) => lines.map(write).join('\n')).join('\n\n')}\n`,
    questions: sections.flat().flatMap((line) => (typeof line === 'string' ? [] : [line.ask])),
  };
}

const appSection = ({ build, name }: AppPackage): Line[] => [
  `# What ${plainLine(name)} should be. Written from ${plainLine(`${build.version} (${build.build})`)} as a start; it is yours to edit.`,
  'fenlok: intent/1',
  'app:',
  `  id: ${quote(build.appId)}`,
  { ask: 'Which build do users have now? The candidate must be higher.', indent: '  ' },
  '  # shipped: { version: "1.0", build: "1" }',
];

const MOST_TEXTS_LISTED = 20;

function localeSection(app: AppPackage): Line[] {
  const { meant, others } = splitLocales(app);
  const alone = textsInNoOtherLanguage(app);
  const lines: Line[] = [
    { ask: 'Which language is the source, that is: which one do the texts without a language speak?' },
    `sourceLocale: ${sourceLocaleOf(app)}`,
    { ask: 'Which languages are meant to ship? These hold most of the texts.' },
    `locales: [${[sourceLocaleOf(app), ...meant].join(', ')}]`,
  ];
  if (others.length > 0)
    lines.push(
      `# The package also speaks, with few texts: ${others.join(', ')}. Most likely a library brought them.`,
    );
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
    `untranslated: [${alone.slice(0, MOST_TEXTS_LISTED).map(quote).join(', ')}]`,
  );
  if (alone.length > MOST_TEXTS_LISTED) lines.push(`# … and ${alone.length - MOST_TEXTS_LISTED} more.`);
  return lines;
}

function screenSection(app: AppPackage): Line[] {
  const { libraries, screens } = screensOf(app);
  return [
    {
      ask: 'Which screens are there, and what do you call them? Behind each stands what the package starts.',
    },
    screens.length > 0 ? 'screens:' : 'screens: []',
    ...screens.map(({ id, from }) => `  - { id: ${id} }  # ${from}`),
    ...(libraries.length > 0
      ? [`# Left out, since libraries most likely brought them: ${libraries.join(', ')}.`]
      : []),
    {
      ask: 'Which combinations must be covered? This asks for every screen in the source language and both themes.',
    },
    'coverage:',
    `  - { locales: [${sourceLocaleOf(app)}] }`,
  ];
}

const linkSection = (app: AppPackage): Line[] => [
  { ask: 'Which private schemes must a browser be able to open?' },
  'links:',
  `  schemes: [${privateSchemes(app).map(quote).join(', ')}]`,
  `  hosts: [${linkHosts(app).map(quote).join(', ')}]`,
  {
    ask: 'Which links does the app promise, and where does each land? Name an argument in braces.',
    indent: '  ',
  },
  '  # routes:',
  '  #   - { id: sailing, url: "/sailings/{sailing}", screen: sailing }',
];

const MESSAGES: Line[] = [
  {
    ask: 'Which messages does it send? The payload stands in a file beside this one; a tap lands on the screen.',
  },
  '# push:',
  '#   messages:',
  '#     - { id: delay, payload: push/delay.json, screen: sailing }',
];

const PURCHASES: Line[] = [
  { ask: 'What does it sell? The last step of `buy` touches the button that buys it.' },
  '# purchases:',
  '#   products:',
  '#     - { id: pass.month, kind: subscription, period: P1M, buy: [{ tap: buy_button }] }',
];

const ADS: Line[] = [
  {
    ask: 'Where does it show ads, and which networks are asked? Each is described in a file: docs/purchases-and-ads.md.',
  },
  '# ads:',
  '#   networks: [networks/mine.yaml]',
  '#   placements:',
  '#     - { id: top, format: banner, waterfall: [{ network: mine, parameters: { unit: "1" } }] }',
];

const LIMITS: Line[] = [
  '# Limits have defaults (text 4.5 : 1, large text 3 : 1, targets 48 dp or 44 pt); write "limits:" to change them.',
];

/** What stands in a package may hold anything; in a comment it must not begin a new line. */
const plainLine = (text: string): string => text.replace(/[\p{Cc}\u2028\u2029]+/gu, ' ').slice(0, 200);

/** As it stands where YAML cannot take it for something else. */
const quote = (text: string): string =>
  /^[a-z][\w.+-]*$/i.test(text) && !/^(true|false|yes|no|on|off|null|y|n)$/i.test(text)
    ? text
    : JSON.stringify(text);

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

/** On Android each activity; `SailingActivity` becomes `sailing`. */
function screensOf(app: AppPackage): { screens: { id: string; from: string }[]; libraries: string[] } {
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
  };
}

const isLauncher = ({ filters }: Component): boolean =>
  filters.some(({ categories }) => categories.includes('android.intent.category.LAUNCHER'));

/** `com.example` of `com.example.ferry.MainActivity`. */
const vendorOf = (name: string): string => name.split('.').slice(0, 2).join('.');

const screenId = ({ name }: Component): string =>
  name
    .slice(name.lastIndexOf('.') + 1)
    .replace(/(Activity|Screen)$/, '')
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
