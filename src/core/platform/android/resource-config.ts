/** The configuration under which an Android resource value holds: one qualifier each (Android developers, *App resources overview*). */
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
  if (!language && !upper)
    return { locale: '', localeQualifier: '', language, script, region, localeVariant, numberingSystem };
  const parts = [script, upper, localeVariant].filter(Boolean);
  const extension = numberingSystem ? ['u', 'nu', numberingSystem] : [];
  return {
    locale: language && [MODERN[language] ?? language, ...parts, ...extension].join('-'),
    localeQualifier:
      script || localeVariant || numberingSystem
        ? language && ['b', language, ...parts, ...extension].join('+')
        : language && `${language}${upper && `-r${upper}`}`,
    language,
    script,
    region: upper,
    localeVariant,
    numberingSystem,
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

export const formatDensity = (density: number): string => DENSITY_NAMES.get(density) ?? `${density}dpi`;

/** As a resource folder is named, in the platform's order of precedence: `sr-land-xxhdpi-v4`; empty for the default. */
export function formatConfig(config: ResourceConfig): string {
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
    formatDensity(config.density),
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
