/** The choice of a variant as a small table: what the device gets, and why each other candidate lost. */

import type { Qualifier } from '../platform/android/match-config.ts';
import { formatConfig, formatDensity, type ResourceConfig } from '../platform/android/resource-config.ts';
import { explainSelection, type Fate, scaleFactor } from '../platform/android/select-variant.ts';
import type { TargetDevice } from '../platform/android/target-device.ts';
import { padToColumns } from './columns.ts';
import { outcomeMark } from './outcome-words.ts';
import type { TextStyle } from './text-style.ts';
import { wrap } from './wrap.ts';

interface VariantRow {
  /** As its folder is named; empty for the default. */
  variant: string;
  fate: Fate['outcome'];
  why: string;
  /** The file or value behind it. */
  holds: string;
  /** Of pictures: above 1 it is scaled up, and blurred. */
  scale?: number;
}

interface VariantChoice {
  resource: string;
  device: string;
  rows: VariantRow[];
  /** What would serve this device better, where the choice costs it something. */
  remedy?: string;
}

/** One candidate, in the packer's order. */
export interface Candidate {
  config: ResourceConfig;
  holds: string;
  /** Whether it is made of pixels, which are scaled. */
  isPicture: boolean;
}

export function explainVariants(
  resource: string,
  candidates: readonly Candidate[],
  device: TargetDevice,
): VariantChoice {
  const configs = candidates.map(({ config }) => config);
  const fates = explainSelection({ configs: () => configs }, device);
  const rows = candidates.map(({ config, holds, isPicture }, i) => ({
    variant: formatConfig(config),
    fate: fates[i]!.outcome,
    why: formatFate(fates[i]!, config, configs, device),
    holds,
    ...(isPicture && { scale: scaleFactor(config.density, device.density) }),
  }));
  // the chosen one first, then those that came closest
  const rank = { chosen: 0, beaten: 1, excluded: 2 };
  return {
    resource,
    device: formatDevice(device),
    rows: rows.sort((a, b) => rank[a.fate] - rank[b.fate]),
    remedy: remedyFor(resource, candidates, fates, device),
  };
}

const formatDevice = ({
  density,
  heightDp,
  locale,
  night,
  sdkVersion,
  uiMode,
  widthDp,
}: TargetDevice): string =>
  [
    locale || 'no language',
    `${density} dpi${formatDensity(density).endsWith('dpi') && !/^\d/.test(formatDensity(density)) ? ` (${formatDensity(density)})` : ''}`,
    `${widthDp} × ${heightDp} dp`,
    night === 'yes' ? 'night' : 'day',
    uiMode,
    `SDK ${sdkVersion}`,
  ]
    .filter(Boolean)
    .join(', ');

const nameOf = (config: ResourceConfig): string => formatConfig(config) || 'the default';

const QUALIFIER_WORDS: Record<Qualifier, string> = {
  mcc: 'country of the network',
  mnc: 'network',
  locale: 'language',
  gender: 'grammatical gender',
  layoutDirection: 'layout direction',
  smallestWidthDp: 'smallest width',
  widthDp: 'width',
  heightDp: 'height',
  screenSize: 'screen size',
  screenLong: 'long screen',
  round: 'round screen',
  colorGamut: 'colour gamut',
  dynamicRange: 'dynamic range',
  orientation: 'orientation',
  uiMode: 'kind of device',
  night: 'night',
  density: 'density',
  touchscreen: 'touch',
  keysHidden: 'keyboard at hand',
  keyboard: 'keyboard',
  navigationHidden: 'navigation at hand',
  navigation: 'navigation',
  screenPx: 'screen in pixels',
  version: 'platform version',
};

/** What a configuration says of one qualifier, as its folder would be named by it alone. */
function formatSelf(by: Qualifier, config: ResourceConfig): string {
  switch (by) {
    case 'locale':
      return config.locale;
    case 'layoutDirection':
      return config.layoutDirection === 'any' ? '' : `ld${config.layoutDirection}`;
    case 'night':
      return config.night === 'any' ? '' : config.night === 'yes' ? 'night' : 'notnight';
    case 'density':
      return formatDensity(config.density) || 'mdpi (no density)';
    case 'screenPx':
      return config.widthPx > 0 ? `${config.widthPx}x${config.heightPx}` : '';
    case 'version':
      return config.sdkVersion > 0 ? `v${config.sdkVersion}` : '';
    case 'smallestWidthDp':
    case 'widthDp':
    case 'heightDp':
      return config[by] > 0 ? `${config[by]} dp` : '';
    case 'mcc':
    case 'mnc':
      return config[by] > 0 ? `${by}${config[by] === 0xffff ? '00' : config[by]}` : '';
    default:
      return config[by];
  }
}

function formatFate(
  fate: Fate,
  config: ResourceConfig,
  configs: readonly ResourceConfig[],
  device: TargetDevice,
): string {
  if (fate.outcome === 'chosen') return 'this one is used';
  if (fate.outcome === 'excluded')
    return `${QUALIFIER_WORDS[fate.by]}: it is for ${formatSelf(fate.by, config)}, the device has ${formatSelf(fate.by, device) || 'none'}`;
  const winner = configs[fate.winner]!;
  if (!fate.by) return `the same to this device as ${nameOf(winner)}, which comes first in the table`;
  const [own, others] = [formatSelf(fate.by, config), formatSelf(fate.by, winner)];
  const asked = fate.by === 'density' ? `, for a device of ${device.density} dpi` : '';
  return `${QUALIFIER_WORDS[fate.by]}: ${nameOf(winner)} ${others ? `has ${others}` : 'names none, which comes nearer'}, this one ${own || 'names none'}${asked}`;
}

/** A picture that fits the screen better, and lost by something that counts more than density. */
function remedyFor(
  resource: string,
  candidates: readonly Candidate[],
  fates: readonly Fate[],
  device: TargetDevice,
): string | undefined {
  const chosen = candidates[fates.findIndex(({ outcome }) => outcome === 'chosen')];
  if (!chosen)
    return `No variant fits, so the app crashes where it asks for ${resource}. Add one without qualifiers.`;
  if (!chosen.isPicture || chosen.config.density === device.density) return undefined;
  const sharper = candidates.find(
    ({ config }, i) =>
      config.density === device.density && fates[i]!.outcome === 'beaten' && config !== chosen.config,
  );
  if (!sharper || scaleFactor(chosen.config.density, device.density) === 1) return undefined;
  const cure = formatConfig({ ...chosen.config, density: device.density, sdkVersion: 0 });
  return `${formatConfig(sharper.config)} has the density of this device, but other qualifiers count before density. Add ${resource.split('/')[0]}-${cure}.`;
}

/** For a terminal: the choice first, then the others, each with its reason. */
export function variantTable(
  choice: VariantChoice,
  { style, widthColumns }: { style: TextStyle; widthColumns: number },
): string {
  const { device, remedy, resource, rows } = choice;
  const width = Math.min(28, Math.max(...rows.map(({ variant }) => (variant || 'default').length)));
  const line = ({ fate, holds, scale, variant, why }: VariantRow): string[] => {
    const name = padToColumns(variant || 'default', width);
    const mark =
      fate === 'chosen'
        ? style.outcome('passed', `${outcomeMark.passed} chosen  `)
        : style.faint(`${fate === 'beaten' ? '·' : '–'} ${fate.padEnd(8)}`);
    const head = `${mark} ${fate === 'chosen' ? style.strong(name) : name}  ${fate === 'chosen' ? holds : why}`;
    const lines = wrap(head, widthColumns, 2, width + 15);
    if (fate === 'chosen' && scale !== undefined)
      lines.push(`${' '.repeat(width + 15)}${formatScale(scale, style)}`);
    return lines;
  };
  return [
    `${style.strong(resource)} on ${device}`,
    '',
    ...rows.flatMap(line),
    ...(remedy
      ? ['', ...wrap(`${style.outcome('failed', outcomeMark.failed)} ${remedy}`, widthColumns, 2, 4)]
      : []),
    '',
  ].join('\n');
}

/** `scaled × 1.50 up: blurred`; a picture scaled down stays sharp. */
export function formatScale(scale: number, style: TextStyle): string {
  if (scale === 1) return 'drawn as it is, pixel for pixel';
  return scale > 1
    ? style.outcome('failed', `${outcomeMark.failed} scaled up × ${scale.toFixed(2)}, so it is blurred`)
    : `scaled down × ${scale.toFixed(2)}, sharp`;
}
