/**
 * Resources that nothing leads to: not the manifest, not the code, not a resource that these lead to. A name that the
 * code holds as a text counts as used, since it may be looked up by it. Whatever is loaded in other ways (from the
 * network's answer, by reflection) is missed, so this is an estimate.
 */
import type { UnusedResource } from '../../model/app-package.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import type { OpenedAndroid } from './apk.ts';
import { MAX_XML_BYTES, type XmlElement } from './binary-xml.ts';
import { readDex } from './dex.ts';
import type { ResValue } from './res-value.ts';
import type { Resource } from './resource-table.ts';

// Names for the packer's own use, which take no room on a screen.
const NOT_COUNTED = new Set(['id', 'attr', 'styleable', 'public', 'macro']);

/** @returns none where a part that may lead to some cannot be read, or where there is no code */
export async function findUnusedResources({ modules, zip }: OpenedAndroid): Promise<UnusedResource[]> {
  const dexFiles = modules.flatMap((module) => module.dexFiles);
  const unread: Problem[] = [];
  const resources = new Map<number, Resource>();
  const moduleOf = new Map<Resource, (typeof modules)[number]>();
  for (const module of modules)
    for (const [id, resource] of module.table?.resources ?? []) {
      resources.set(id, resource);
      moduleOf.set(resource, module);
    }
  const reached = new Set<Resource>();
  const waiting: Resource[] = [];
  const reach = (id: number) => {
    const resource = resources.get(id);
    if (!resource || reached.has(resource)) return;
    reached.add(resource);
    waiting.push(resource);
  };
  const reachValue = (value: ResValue) => {
    if (value.kind === 'reference' || value.kind === 'attribute') reach(value.id);
  };
  const reachXml = (element: XmlElement) => {
    for (const { resourceId, value } of element.attributes) {
      reach(resourceId);
      reachValue(value);
    }
    element.children.forEach(reachXml);
  };

  for (const { manifest } of modules) reachXml(manifest);
  const texts = new Set<string>();
  for (const file of dexFiles)
    await tryRead(unread, async () => {
      const { resourceIds, strings } = readDex(await zip.read(file), file).references();
      resourceIds.forEach(reach);
      for (const text of strings) texts.add(text);
    });
  for (const resource of resources.values()) if (texts.has(resource.name)) reach(resource.id);

  for (let resource = waiting.pop(); resource; resource = waiting.pop()) {
    const { parseXml, prefix } = moduleOf.get(resource)!;
    for (const { content } of resource.variants()) {
      if (content.kind === 'bag') {
        reach(content.parent);
        for (const { name, value } of content.items) {
          reach(name);
          reachValue(value);
        }
      } else {
        reachValue(content.value);
        const file = fileOf(content.value);
        if (file?.endsWith('.xml'))
          await tryRead(unread, async () =>
            reachXml(parseXml(await zip.read(prefix + file, MAX_XML_BYTES), prefix + file)),
          );
      }
    }
  }
  if (unread.length > 0 || dexFiles.length === 0) return [];
  return [...resources.values()]
    .filter((resource) => !reached.has(resource) && !NOT_COUNTED.has(resource.type))
    .map((resource) => {
      const { prefix } = moduleOf.get(resource)!;
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
