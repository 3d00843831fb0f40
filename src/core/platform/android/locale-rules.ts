/**
 * How the platform tells which of two locales is nearer to the one asked for (AOSP `LocaleData.cpp`): by the tree of
 * parents in CLDR (supplementalData.xml, `parentLocales`), where `es-MX` stands below `es-419` and not below `es`.
 *
 * Likely scripts and regions come from the engine's own CLDR data, which is newer than that of any one release of the
 * platform; for languages that apps are translated into the two agree.
 */

// Children by parent, for each script in which CLDR differs from "drop the region".
const REGIONS_BELOW: Record<string, Record<string, string>> = {
  Arab: { 'ar-015': 'DZ EH LY MA TN' },
  Hant: { 'zh-HK': 'MO' },
  Latn: {
    'en-001':
      '150 AG AI AU BB BM BS BW BZ CA CC CK CM CX CY DG DM ER FJ FK FM GB GD GG GH GI GM GY HK IE IL IM IN IO JE JM ' +
      'KE KI KN KY LC LR LS MG MO MS MT MU MW MY NA NF NG NR NU NZ PG PH PK PN PW RW SB SC SD SG SH SL SS SX SZ TC ' +
      'TK TO TT TV TZ UG VC VG VU WS ZA ZM ZW',
    'en-150': 'AT BE CH DE DK FI NL SE SI',
    'es-419': 'AR BO BR BZ CL CO CR CU DO EC GT HN MX NI PA PE PR PY SV US UY VE',
    'pt-PT': 'AO CH CV GQ GW LU MO MZ ST TL',
  },
};

const PARENTS = new Map(
  Object.entries(REGIONS_BELOW).flatMap(([script, parents]) =>
    Object.entries(parents).flatMap(([parent, regions]) =>
      regions
        .split(' ')
        .map((region): [string, string] => [`${script} ${parent.slice(0, 2)}-${region}`, parent]),
    ),
  ),
);

/** The next locale up, or `''` above a language alone. */
function parentOf(locale: string, script: string): string {
  const dash = locale.indexOf('-');
  return dash < 0 ? '' : (PARENTS.get(`${script} ${locale}`) ?? locale.slice(0, dash));
}

/** From the locale itself up to its language. */
function ancestry(locale: string, script: string): string[] {
  const line: string[] = [];
  for (let at = locale; at; at = parentOf(at, script)) line.push(at);
  return line;
}

const joined = (language: string, region: string): string => (region ? `${language}-${region}` : language);

// A pure function's answers; the platform has them in a table.
const likely = new Map<string, { script: string; region: string }>();

function likelySubtags(tag: string): { script: string; region: string } {
  let found = likely.get(tag);
  if (!found) {
    try {
      const { script = '', region = '' } = new Intl.Locale(tag).maximize();
      found = { script, region };
    } catch {
      found = { script: '', region: '' };
    }
    likely.set(tag, found);
  }
  return found;
}

// AOSP `LocaleDataTables.cpp`: made-up languages have scripts of their own, so that nothing else stands in for them.
const PSEUDO_SCRIPTS = new Map([
  ['en-XA', '~~~A'],
  ['ar-XB', '~~~B'],
]);

/** The script that a language is written in there, or `''` where CLDR does not know. */
export const likelyScript = (language: string, region: string): string => {
  if (!language) return '';
  const locale = joined(language, region);
  return PSEUDO_SCRIPTS.get(locale) ?? likelySubtags(locale).script;
};

/** Whether a language and script are first thought of in this region; the platform's table has British English too. */
const isRepresentative = (locale: string, script: string): boolean => {
  if (locale === 'en-GB') return true;
  const [language = '', region] = locale.split('-');
  return region !== undefined && likelySubtags(`${language}-${script}`).region === region;
};

/** Whether English there follows the American rather than the international kind. */
export const isCloseToUsEnglish = (region: string): boolean =>
  !ancestry(joined('en', region), 'Latn').includes('en-001');

// Two that stand for all of Latin America until its own shows up.
const LATIN_AMERICAN = 'es-419';
const isSpecialSpanish = (locale: string): boolean => locale === 'es-US' || locale === 'es-MX';

/**
 * Which of two regions of one language is nearer to the request.
 *
 * @returns above 0 for the first, below 0 for the second, 0 only where they are the same
 */
export function compareRegions(
  first: string,
  second: string,
  request: { language: string; script: string; region: string },
): number {
  if (first === second) return 0;
  const { language, script } = request;
  let a = joined(language, first);
  let b = joined(language, second);
  if (isSpecialSpanish(a) && !isSpecialSpanish(b) && b !== LATIN_AMERICAN) a = LATIN_AMERICAN;
  else if (isSpecialSpanish(b) && !isSpecialSpanish(a) && a !== LATIN_AMERICAN) b = LATIN_AMERICAN;
  const line = ancestry(joined(language, request.region), script);
  const met = line.find((locale) => locale === a || locale === b);
  if (met) return met === a ? 1 : -1;
  const [toA, toB] = [distance(a, line, script), distance(b, line, script)];
  if (toA !== toB) return toB - toA;
  const [aStands, bStands] = [isRepresentative(a, script), isRepresentative(b, script)];
  if (aStands !== bStands) return aStands ? 1 : -1;
  // for the sake of an answer: letters before digits, then in their order
  return packedRegion(b) - packedRegion(a);
}

function distance(locale: string, line: readonly string[], script: string): number {
  const own = ancestry(locale, script);
  const up = own.findIndex((at) => line.includes(at));
  return up < 0 ? own.length + line.length : up + line.indexOf(own[up]!);
}

/** As the platform packs it: three characters set the top bit. */
function packedRegion(locale: string): number {
  const region = locale.split('-')[1] ?? '';
  const codes = [...region].map((char) => char.charCodeAt(0));
  if (region.length === 3) {
    const [x, y, z] = codes.map((code) => code - 0x30) as [number, number, number];
    return ((0x80 | (z << 2) | (y >> 3)) << 8) | (((y << 5) & 0xff) | x);
  }
  return region ? (codes[0]! << 8) | codes[1]! : 0;
}
