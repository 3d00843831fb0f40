/** Resources of which devices get different forms, with the pixel sizes of pictures. */
import type { ResourceForm, VariedResource } from '../../model/app-package.ts';
import type { ResourceConfig } from '../../platform/android/resource-config.ts';
import { sayConfig } from '../../platform/android/resource-config.ts';
import { readPictureSize } from '../picture-size.ts';
import type { Zip } from '../zip.ts';
import type { OpenedAndroid } from './apk.ts';
import type { Resource, ResourceVariant } from './resource-table.ts';

const PICTURE = /\.(png|webp|jpe?g|gif)$/i;
// Drawings at least; a larger one is no icon, and inflating it takes long.
const MAX_PICTURE_BYTES = 16 * 2 ** 20;
const MAX_RESOURCES = 20_000;

/** @returns resources whose forms differ by more than language, pictures, and those without a form for every device */
export async function findVariedResources({ modules, zip }: OpenedAndroid): Promise<VariedResource[]> {
  const varied: VariedResource[] = [];
  for (const { prefix, table } of modules)
    for (const resource of table?.resources.values() ?? []) {
      if (!isVaried(resource) || varied.length >= MAX_RESOURCES) continue;
      const forms: ResourceForm[] = [];
      for (const variant of resource.variants()) forms.push(await formOf(variant, prefix, zip));
      varied.push({ name: `${resource.type}/${resource.name}`, forms });
    }
  return varied;
}

/** Identifiers and attributes are no values, and a text that differs by language alone is a catalogue's. */
function isVaried(resource: Resource): boolean {
  if (resource.type === 'id' || resource.type === 'attr') return false;
  const configs = resource.configs();
  const isPicture = resource.type === 'drawable' || resource.type === 'mipmap';
  const hasDefault = configs.some((config) => sayConfig({ ...config, density: 0, sdkVersion: 0 }) === '');
  return isPicture || !hasDefault || (configs.length > 2 && countKinds(configs) > 1);
}

/** How many of the qualifiers that count before density are in use. */
const countKinds = (configs: readonly ResourceConfig[]): number =>
  [
    configs.some(({ mcc, mnc }) => mcc > 0 || mnc > 0),
    configs.some(({ language }) => language !== ''),
    configs.some(({ night }) => night !== 'any'),
    new Set(configs.map(({ density }) => density)).size > 1,
  ].filter(Boolean).length;

async function formOf({ config, content }: ResourceVariant, prefix: string, zip: Zip): Promise<ResourceForm> {
  const qualifiers = sayConfig(config);
  const path = content.kind === 'value' && content.value.kind === 'string' ? content.value.text : '';
  const file = prefix + path;
  const entry = PICTURE.test(path) ? zip.entries.get(file) : undefined;
  if (!entry || entry.sizeBytes > MAX_PICTURE_BYTES) return { qualifiers };
  const bytes = await zip.read(file).catch(() => undefined);
  return { qualifiers, file, ...(bytes && readPictureSize(bytes)) };
}
