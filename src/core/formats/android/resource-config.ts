/**
 * The configuration under which a resource value holds (AOSP `ResourceTypes.h`, `ResTable_config`).
 * Older packers write fewer bytes; what is missing means *any*.
 *
 *      0 size   4 mcc · mnc   8 language · region   12 orientation · touch · density   16 keyboard · navigation · input · gender
 *     20 width · height px   24 version   28 layout · mode · smallest width   32 width · height dp
 *     36 script   40 variant   48 round · colour   52 script was computed   53 numbering system
 */
import type { ByteReader } from '../byte-reader.ts';

/** One qualifier each, in the words of resource folders; empty or 0 means *any*. */
export interface ResourceConfig {
  mcc: number;
  /** 0xffff stands for the code 00. */
  mnc: number;
  /** BCP 47 in today's codes, or empty for any. */
  locale: string;
  /** The locale as resource folders write it, with the codes that the package holds: `zh-rCN`, `b+sr+Latn`, `iw`. */
  localeQualifier: string;
  /** Its parts, with the codes that the package holds. The script only where it is written out. */
  language: string;
  script: string;
  region: string;
  localeVariant: string;
  numberingSystem: string;
  gender: string;
  layoutDirection: 'any' | 'ltr' | 'rtl';
  smallestWidthDp: number;
  widthDp: number;
  heightDp: number;
  screenSize: string;
  screenLong: string;
  round: string;
  colorGamut: string;
  dynamicRange: string;
  orientation: string;
  uiMode: string;
  night: 'any' | 'yes' | 'no';
  /** Dots per inch; 0xfffe is anydpi, 0xffff nodpi, 0 the default. */
  density: number;
  touchscreen: string;
  keysHidden: string;
  keyboard: string;
  navigationHidden: string;
  navigation: string;
  widthPx: number;
  heightPx: number;
  sdkVersion: number;
  minorVersion: number;
}

export const ANY_CONFIG: ResourceConfig = {
  mcc: 0,
  mnc: 0,
  locale: '',
  localeQualifier: '',
  language: '',
  script: '',
  region: '',
  localeVariant: '',
  numberingSystem: '',
  gender: '',
  layoutDirection: 'any',
  smallestWidthDp: 0,
  widthDp: 0,
  heightDp: 0,
  screenSize: '',
  screenLong: '',
  round: '',
  colorGamut: '',
  dynamicRange: '',
  orientation: '',
  uiMode: '',
  night: 'any',
  density: 0,
  touchscreen: '',
  keysHidden: '',
  keyboard: '',
  navigationHidden: '',
  navigation: '',
  widthPx: 0,
  heightPx: 0,
  sdkVersion: 0,
  minorVersion: 0,
};

// The words of each field, by its value: shared by the binary and the protobuf form, which number some differently.
export const WORDS = {
  gender: ['', 'neuter', 'feminine', 'masculine'],
  layoutDirection: ['any', 'ltr', 'rtl'],
  screenSize: ['', 'small', 'normal', 'large', 'xlarge'],
  screenLong: ['', 'notlong', 'long'],
  round: ['', 'notround', 'round'],
  colorGamut: ['', 'nowidecg', 'widecg'],
  dynamicRange: ['', 'lowdr', 'highdr'],
  orientation: ['', 'port', 'land', 'square'],
  uiMode: ['', '', 'desk', 'car', 'television', 'appliance', 'watch', 'vrheadset'],
  night: ['any', 'no', 'yes'],
  touchscreen: ['', 'notouch', 'stylus', 'finger'],
  keysHidden: ['', 'keysexposed', 'keyshidden', 'keyssoft'],
  keyboard: ['', 'nokeys', 'qwerty', '12key'],
  navigationHidden: ['', 'navexposed', 'navhidden'],
  navigation: ['', 'nonav', 'dpad', 'trackball', 'wheel'],
} as const;

type Word<K extends keyof typeof WORDS> = (typeof WORDS)[K][number];
export const word = <K extends keyof typeof WORDS>(field: K, value: number): Word<K> =>
  WORDS[field][value] ?? WORDS[field][0];

export function readResourceConfig(reader: ByteReader, at: number): ResourceConfig {
  const size = reader.u32(at);
  reader.slice(at, size);
  const u8 = (offset: number) => (offset + 1 <= size ? reader.u8(at + offset) : 0);
  const u16 = (offset: number) => (offset + 2 <= size ? reader.u16(at + offset) : 0);
  const ascii = (offset: number, length: number) =>
    offset + length <= size
      ? String.fromCharCode(...reader.slice(at + offset, length)).replace(/\0.*$/s, '')
      : '';
  const [layout, mode, input, colour] = [u8(28), u8(29), u8(18), u8(49)];
  const language = unpack(u8(8), u8(9), 0x61);
  const region = unpack(u8(10), u8(11), 0x30);
  const script = u8(52) !== 0 ? '' : ascii(36, 4);
  return {
    mcc: u16(4),
    mnc: u16(6),
    ...localeFields(language, script, region, ascii(40, 8), ascii(53, 8)),
    gender: word('gender', u8(19) & 3),
    layoutDirection: word('layoutDirection', layout >> 6),
    smallestWidthDp: u16(30),
    widthDp: u16(32),
    heightDp: u16(34),
    screenSize: word('screenSize', layout & 0xf),
    screenLong: word('screenLong', (layout >> 4) & 3),
    round: word('round', u8(48) & 3),
    colorGamut: word('colorGamut', colour & 3),
    dynamicRange: word('dynamicRange', (colour >> 2) & 3),
    orientation: word('orientation', u8(12)),
    uiMode: word('uiMode', mode & 0xf),
    night: word('night', (mode >> 4) & 3),
    density: u16(14),
    touchscreen: word('touchscreen', u8(13)),
    keysHidden: word('keysHidden', input & 3),
    keyboard: word('keyboard', u8(16)),
    navigationHidden: word('navigationHidden', (input >> 2) & 3),
    navigation: word('navigation', u8(17)),
    widthPx: u16(20),
    heightPx: u16(22),
    sdkVersion: u16(24),
    minorVersion: u16(26),
  };
}

/** Two letters as they stand, or three packed into 15 bits with the top bit set. */
function unpack(first: number, second: number, base: number): string {
  if (first === 0) return '';
  if (!(first & 0x80)) return String.fromCharCode(first, second);
  return String.fromCharCode(
    base + (second & 0x1f),
    base + ((second >> 5) | ((first & 0x03) << 3)),
    base + ((first & 0x7c) >> 2),
  );
}

// Codes that the platform still writes in their withdrawn form (ISO 639-1/RA, 1989).
const MODERN: Record<string, string> = { iw: 'he', in: 'id', ji: 'yi', tl: 'fil', no: 'nb' };

type LocaleFields = Pick<
  ResourceConfig,
  'locale' | 'localeQualifier' | 'language' | 'script' | 'region' | 'localeVariant' | 'numberingSystem'
>;

export function localeFields(
  language: string,
  script: string,
  region: string,
  localeVariant: string,
  numberingSystem = '',
): LocaleFields {
  const upper = region.toUpperCase();
  const own = { language, script, region: upper, localeVariant, numberingSystem };
  if (!language) return { locale: '', localeQualifier: '', ...own };
  const parts = [script, upper, localeVariant].filter(Boolean);
  const extension = numberingSystem ? ['u', 'nu', numberingSystem] : [];
  return {
    locale: [MODERN[language] ?? language, ...parts, ...extension].join('-'),
    localeQualifier:
      script || localeVariant || numberingSystem
        ? ['b', language, ...parts, ...extension].join('+')
        : `${language}${upper && `-r${upper}`}`,
    ...own,
  };
}

/** The fields of a BCP 47 tag; codes stay as they are. */
export function localeFieldsOf(tag: string): LocaleFields {
  const [plain = '', numbering = ''] = tag.split('-u-nu-');
  const [language = '', ...rest] = plain.split('-');
  const script = rest.find((part) => /^[a-z]{4}$/i.test(part)) ?? '';
  const region = rest.find((part) => /^([a-z]{2}|\d{3})$/i.test(part)) ?? '';
  const variant = rest.find((part) => part !== script && part !== region) ?? '';
  return localeFields(language.toLowerCase(), script, region, variant, numbering);
}

const DENSITY_NAMES = new Map([
  [0, ''],
  [120, 'ldpi'],
  [160, 'mdpi'],
  [213, 'tvdpi'],
  [240, 'hdpi'],
  [320, 'xhdpi'],
  [480, 'xxhdpi'],
  [640, 'xxxhdpi'],
  [0xfffe, 'anydpi'],
  [0xffff, 'nodpi'],
]);

/** `xhdpi` → 320; without the default, which has no name. */
export const DENSITY_BY_NAME: ReadonlyMap<string, number> = new Map(
  [...DENSITY_NAMES].filter(([, name]) => name).map(([density, name]) => [name, density]),
);

export const sayDensity = (density: number): string => DENSITY_NAMES.get(density) ?? `${density}dpi`;

/** As a resource folder is named, in the platform's order of precedence: `sr-land-xxhdpi-v4`; empty for the default. */
export function sayConfig(config: ResourceConfig): string {
  const dp = (prefix: string, value: number) => value > 0 && `${prefix}${value}dp`;
  return [
    config.mcc > 0 && `mcc${config.mcc}`,
    config.mnc > 0 && (config.mnc === 0xffff ? 'mnc00' : `mnc${config.mnc}`),
    config.localeQualifier,
    config.gender,
    config.layoutDirection !== 'any' && `ld${config.layoutDirection}`,
    dp('sw', config.smallestWidthDp),
    dp('w', config.widthDp),
    dp('h', config.heightDp),
    config.screenSize,
    config.screenLong,
    config.round,
    config.colorGamut,
    config.dynamicRange,
    config.orientation,
    config.uiMode,
    config.night !== 'any' && (config.night === 'yes' ? 'night' : 'notnight'),
    sayDensity(config.density),
    config.touchscreen,
    config.keysHidden,
    config.keyboard,
    config.navigationHidden,
    config.navigation,
    config.widthPx > 0 && `${config.widthPx}x${config.heightPx}`,
    config.sdkVersion > 0 &&
      `v${config.sdkVersion}${config.minorVersion > 0 ? `.${config.minorVersion}` : ''}`,
  ]
    .filter(Boolean)
    .join('-');
}
