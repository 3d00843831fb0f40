/**
 * Resources that nothing leads to: not the manifest, not the code, not a resource that these lead to. Whatever is loaded
 * in other ways (from the network's answer, by reflection) is missed, so this is an estimate.
 */
import type { UnusedResource } from '../../model/app-package.ts';
import type { OpenedAndroid } from './apk.ts';
import type { ResValue } from './res-value.ts';
import { findReferences } from './resource-references.ts';
import type { Resource } from './resource-table.ts';

// Names for the packer's own use, which take no room on a screen.
const NOT_COUNTED = new Set(['id', 'attr', 'styleable', 'public', 'macro']);

/** @returns none where a part that may lead to some cannot be read, or where there is no code */
export async function findUnusedResources(opened: OpenedAndroid): Promise<UnusedResource[]> {
  const { modules, zip } = opened;
  const { fromCode, fromManifest, leadsTo, moduleOf, resources, unread } = await findReferences(opened);
  if (unread.length > 0 || modules.every(({ dexFiles }) => dexFiles.length === 0)) return [];
  const reached = new Set<Resource>();
  const waiting: Resource[] = [];
  const reach = (id: number) => {
    const resource = resources.get(id);
    if (!resource || reached.has(resource)) return;
    reached.add(resource);
    waiting.push(resource);
  };
  fromManifest.forEach(reach);
  fromCode.forEach(reach);
  for (let resource = waiting.pop(); resource; resource = waiting.pop())
    for (const variant of resource.variants()) leadsTo(variant).forEach(reach);
  return [...resources.values()]
    .filter((resource) => !reached.has(resource) && !NOT_COUNTED.has(resource.type))
    .map((resource) => {
      const { prefix } = moduleOf(resource);
      const files = resource
        .variants()
        .flatMap(({ content }) => (content.kind === 'value' && fileOf(content.value)) || [])
        .map((file) => prefix + file);
      return {
        name: `${resource.type}/${resource.name}`,
        type: resource.type,
        files,
        compressedBytes: files.reduce((sum, file) => sum + (zip.entries.get(file)?.compressedBytes ?? 0), 0),
      };
    });
}

const fileOf = (value: ResValue): string | undefined =>
  value.kind === 'string' && value.text.startsWith('res/') ? value.text : undefined;
