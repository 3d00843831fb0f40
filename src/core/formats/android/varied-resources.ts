/** Resources of which devices get different forms, with the pixel sizes of pictures. */
import type { AskedBy, ResourceForm, VariedResource } from '../../model/app-package.ts';
import type { ResourceConfig } from '../../platform/android/resource-config.ts';
import { formatConfig } from '../../platform/android/resource-config.ts';
import { readPictureSize } from '../picture-size.ts';
import type { Zip } from '../zip.ts';
import type { OpenedAndroid } from './apk.ts';
import { findReferences } from './resource-references.ts';
import type { Resource, ResourceVariant } from './resource-table.ts';

const PICTURE = /\.(png|webp|jpe?g|gif)$/i;
// Drawings at least; a larger one is no icon, and inflating it takes long.
const MAX_PICTURE_BYTES = 16 * 2 ** 20;
const MAX_RESOURCES = 20_000;

/** @returns resources whose forms differ by more than language, pictures, and those without a form for every device */
export async function findVariedResources(opened: OpenedAndroid): Promise<VariedResource[]> {
  const { modules, zip } = opened;
  const varied: VariedResource[] = [];
  const minSdk = opened.app.android?.manifest.minSdk ?? 1;
  const asked = await findAskers(opened, minSdk);
  for (const { prefix, table } of modules)
    for (const resource of table?.resources.values() ?? []) {
      if (!isVaried(resource) || varied.length >= MAX_RESOURCES) continue;
      const forms: ResourceForm[] = [];
      for (const variant of resource.variants()) forms.push(await formOf(variant, prefix, zip));
      const name = `${resource.type}/${resource.name}`;
      const askedBy = resource.configs().some((config) => isForAll(config, minSdk))
        ? undefined
        : asked(resource);
      varied.push({ name, forms, ...(askedBy && { askedBy }) });
    }
  return varied;
}

/** Whether every device on the oldest platform finds it. */
const isForAll = (config: ResourceConfig, minSdk: number): boolean =>
  config.sdkVersion <= minSdk && formatConfig({ ...config, density: 0, sdkVersion: 0 }) === '';

// As many as a person needs to see that it is asked for.
const MAX_ASKERS = 8;

/**
 * Who asks for a resource on the oldest platform level that the app runs on: only forms that this level can pick lead
 * on to others. Packers put what a newer form needs (a gradient within a drawing, a ripple) beside it, for newer levels
 * alone, and nothing else asks for it.
 */
async function findAskers(opened: OpenedAndroid, minSdk: number): Promise<(resource: Resource) => AskedBy[]> {
  const { fromCode, fromManifest, leadsTo, resources } = await findReferences(opened);
  const askers = new Map<number, Map<Resource, number[]>>();
  const reached = new Set<number>();
  const waiting: number[] = [];
  const reach = (id: number) => {
    if (!resources.has(id) || reached.has(id)) return;
    reached.add(id);
    waiting.push(id);
  };
  fromManifest.forEach(reach);
  fromCode.forEach(reach);
  for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
    const resource = resources.get(id)!;
    for (const [at, variant] of resource.variants().entries()) {
      if (variant.config.sdkVersion > minSdk) continue;
      for (const next of leadsTo(variant)) {
        const of = askers.get(next) ?? new Map<Resource, number[]>();
        askers.set(next, of.set(resource, [...(of.get(resource) ?? []), at]));
        reach(next);
      }
    }
  }
  return ({ id }) => [
    ...(fromManifest.has(id) ? [{ kind: 'manifest' } as const] : []),
    ...[...(askers.get(id) ?? [])].slice(0, MAX_ASKERS).map(
      ([resource, asking]): AskedBy => ({
        kind: 'resource',
        name: `${resource.type}/${resource.name}`,
        forms: resource.configs().map(formatConfig),
        asking,
      }),
    ),
    ...(fromCode.has(id) ? [{ kind: 'code' } as const] : []),
  ];
}

/** Identifiers and attributes are no values, and a text that differs by language alone is a catalogue's. */
function isVaried(resource: Resource): boolean {
  if (resource.type === 'id' || resource.type === 'attr') return false;
  const configs = resource.configs();
  const isPicture = resource.type === 'drawable' || resource.type === 'mipmap';
  const hasDefault = configs.some((config) => formatConfig({ ...config, density: 0, sdkVersion: 0 }) === '');
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
  const qualifiers = formatConfig(config);
  const path = content.kind === 'value' && content.value.kind === 'string' ? content.value.text : '';
  const file = prefix + path;
  const entry = PICTURE.test(path) ? zip.entries.get(file) : undefined;
  if (!entry || entry.sizeBytes > MAX_PICTURE_BYTES) return { qualifiers };
  const bytes = await zip.read(file).catch(() => undefined);
  return { qualifiers, file, ...(bytes && readPictureSize(bytes)) };
}
