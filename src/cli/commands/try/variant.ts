import { join } from 'node:path';
import type { AndroidModule } from '../../../core/formats/android/android-package.ts';
import type { Resource, ResourceContent } from '../../../core/formats/android/resource-table.ts';
import type { OpenedPackage } from '../../../core/formats/package.ts';
import { isLocaleTag } from '../../../core/model/locale.ts';
import { UnreadableError } from '../../../core/model/problem.ts';
import { parseConfig } from '../../../core/platform/android/parse-config.ts';
import { targetDevice } from '../../../core/platform/android/target-device.ts';
import { selectLocalization, selectScale } from '../../../core/platform/apple/select-localization.ts';
import { nearest } from '../../../core/platform/text/nearest.ts';
import { printable } from '../../../core/reports/escape.ts';
import {
  type Candidate,
  explainVariants,
  formatScale,
  variantTable,
} from '../../../core/reports/variant-table.ts';
import { openDossier } from '../../../node/dossier.ts';
import { withPackage } from '../../../node/read-package.ts';
import type { AddCommand } from '../../command-table.ts';
import { type Io, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { type DossierOptions, inCwd, wholeNumber } from '../options.ts';

interface VariantOptions extends DossierOptions {
  package?: string;
  locale: string;
  density: number;
  width?: number;
  height?: number;
  sdk: number;
  night?: boolean;
  land?: boolean;
  mcc?: number;
  mnc?: number;
  ui?: string;
  json?: boolean;
}

/** `fenlok try variant`: which variant of a resource a device uses, and why not another. */
export const variantCommand: AddCommand = (command, { io }) => {
  command
    .argument('<name>', 'a resource, as drawable/poster or poster')
    .option('--package <file>', 'the package (default: that of the dossier)')
    .option('--dossier <folder>', 'the folder of this candidate', 'dossier')
    .option('--locale <tag>', 'language of the device (BCP 47)', 'en-US')
    .option(
      '--density <dpi>',
      'dots per inch, or ldpi … xxxhdpi; on iOS 160, 320, 480 for @1x, @2x, @3x',
      densityOf,
      480,
    )
    .option('--width <dp>', 'width of the screen', wholeNumber)
    .option('--height <dp>', 'height of the screen', wholeNumber)
    .option('--land', 'held sideways')
    .option('--night', 'in the dark theme')
    .option('--sdk <level>', 'platform version', wholeNumber, 35)
    .option('--ui <kind>', 'car, television, watch, desk, appliance or vrheadset')
    .option('--mcc <code>', 'country of the mobile network', wholeNumber)
    .option('--mnc <code>', 'mobile network', wholeNumber)
    .option('--json', 'print the result as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok try variant drawable/poster --package app-release.apk --locale de --density 120',
    )
    .action(async (name: string, options: VariantOptions) => {
      if (!isLocaleTag(options.locale))
        throw new UsageError(`--locale: "${options.locale}" is no language tag; write it as de or pt-BR`);
      if (options.ui && !parseConfig(options.ui)?.uiMode)
        throw new UsageError(
          `--ui: "${options.ui}" is none of car, television, watch, desk, appliance, vrheadset`,
        );
      await withPackage(
        await packageFile(options, io),
        (opened) =>
          opened.app.platform === 'ios'
            ? chooseOnIos(name, opened, options, io)
            : choose(name, opened, options, io),
        { parts: 'declared', texts: false },
      );
    });
};

function densityOf(text: string): number {
  const density = /^\d+$/.test(text) ? Number(text) : parseConfig(text)?.density;
  if (!density || density < 72 || density > 1280)
    throw new UsageError(
      `--density: "${text}" is neither dots per inch (72 to 1280) nor a name such as xhdpi`,
    );
  return density;
}

async function packageFile(options: VariantOptions, io: Io): Promise<string> {
  if (options.package) return inCwd(io, options.package);
  const { candidate, folder } = await openDossier(inCwd(io, options.dossier)).catch((cause) => {
    throw new UsageError('name the package with --package FILE, since there is no dossier here', { cause });
  });
  return join(folder, candidate.package.file);
}

function choose(name: string, { android, app }: OpenedPackage, options: VariantOptions, io: Io): void {
  const device = targetDevice({
    locale: options.locale,
    densityDpi: options.density,
    widthDp: options.width,
    heightDp: options.height,
    orientation: options.land ? 'land' : undefined,
    night: options.night ?? false,
    sdkVersion: options.sdk,
    mcc: options.mcc,
    mnc: options.mnc,
    uiMode: options.ui,
  });
  const resource = findResource(name, android?.modules ?? [], app.name);
  const candidates = resource.variants().map(({ config, content }): Candidate => {
    const holds = formatContent(content);
    return { config, holds, isPicture: /\.(png|webp|jpe?g|gif)$/i.test(holds) };
  });
  const choice = explainVariants(`${resource.type}/${resource.name}`, candidates, device);
  if (options.json) io.out(`${JSON.stringify(choice, null, 2)}\n`);
  else io.out(variantTable(printable(choice), { style: styleFor(io), widthColumns: io.columns }));
}

const formatContent = (content: ResourceContent): string => {
  if (content.kind === 'bag') return `${content.items.length} items`;
  const { value } = content;
  switch (value.kind) {
    case 'string':
      return value.text;
    case 'colour':
      return `#${value.argb.toString(16).padStart(8, '0')}`;
    case 'dimension':
      return `${value.value}${value.unit}`;
    case 'reference':
      return `reference 0x${value.id.toString(16).padStart(8, '0')}`;
    case 'integer':
    case 'boolean':
    case 'float':
      return String(value.value);
    default:
      return value.kind;
  }
};

function findResource(name: string, modules: readonly AndroidModule[], app: string): Resource {
  const all = modules.flatMap(({ table }) => (table ? [...table.resources.values()] : []));
  const wanted = name.replace(/^[@R]?[./]?/, '').replace('.', '/');
  const found = all.filter((of) => `${of.type}/${of.name}` === wanted || of.name === wanted);
  if (found.length === 1) return found[0]!;
  if (found.length > 1)
    throw new UsageError(
      `${app} has several resources of that name: ${found.map((of) => `${of.type}/${of.name}`).join(', ')}`,
    );
  const meant = nearest(
    wanted,
    all.map((of) => (wanted.includes('/') ? `${of.type}/${of.name}` : of.name)),
  );
  throw new UnreadableError({
    code: 'variant.no-resource',
    found: `no resource ${name} among the ${all.length} of ${app}`,
    remedy: meant && `Did you mean "${meant}"?`,
  });
}

/** A text by its key, or a picture by its name. */
function chooseOnIos(
  name: string,
  { app, zip }: OpenedPackage,
  { density, json, locale }: VariantOptions,
  io: Io,
): void {
  const pictures = app.pictures.filter((picture) => picture.name === name);
  const scales = pictures.map((picture) => Number(picture.density[1]));
  const displayScale = Math.round(density / 160);
  const region = app.ios?.info.CFBundleDevelopmentRegion;
  const developmentRegion = typeof region === 'string' ? region : 'en';
  const folders = [...zip.entries.keys()].flatMap(
    (entry) => /\.app\/([^/]+)\.lproj\//.exec(entry)?.[1] ?? [],
  );
  const available = [...new Set(folders)]
    .filter((folder) => folder !== 'Base')
    .map((tag) => tag.replaceAll('_', '-'));
  const localization = selectLocalization(available.filter(isLocaleTag), [locale], developmentRegion);
  const key = app.texts.filter((text) => text.key === name);
  if (pictures.length + key.length === 0)
    throw new UnreadableError({
      code: 'variant.no-resource',
      found: `no picture file and no text ${name} in ${app.name}`,
    });
  const scale = selectScale(scales, displayScale);
  const picture = pictures.find(({ density: of }) => Number(of[1]) === scale);
  const text = key.find((of) => of.locale === localization) ?? key.find((of) => of.locale === 'default');
  const result: IosChoice = {
    resource: name,
    device: `iOS, ${locale}, @${displayScale}x`,
    localization,
    available,
    ...(picture && { file: picture.file, scale: displayScale / scale! }),
    ...(text && { text: text.text, from: text.locale === 'default' ? developmentRegion : text.locale }),
  };
  io.out(json ? `${JSON.stringify(result, null, 2)}\n` : formatIosChoice(printable(result), io));
}

interface IosChoice {
  resource: string;
  device: string;
  localization: string;
  available: string[];
  file?: string;
  scale?: number;
  text?: string;
  from?: string;
}

function formatIosChoice(choice: IosChoice, io: Io): string {
  const style = styleFor(io);
  const row = (name: string, value: string) => `  ${style.faint(name.padEnd(13))} ${value}`;
  return [
    `${style.strong(choice.resource)} on ${choice.device}`,
    row('localization', `${choice.localization}, of ${choice.available.join(', ')}`),
    ...(choice.file ? [row('picture', choice.file), row('', formatScale(choice.scale!, style))] : []),
    ...(choice.text !== undefined ? [row('text', `${choice.text}  (${choice.from})`)] : []),
    '',
  ].join('\n');
}
