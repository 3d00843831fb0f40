/**
 * What leads to which resource: the manifest, the code, and resources themselves, through values, styles, attributes and
 * compiled XML. Worked out once for all who ask.
 */
import { type Problem, tryRead } from '../../model/problem.ts';
import type { AndroidModule } from './android-package.ts';
import type { OpenedAndroid } from './apk.ts';
import { MAX_XML_BYTES, type XmlElement } from './binary-xml.ts';
import { readDex } from './dex.ts';
import type { ResValue } from './res-value.ts';
import type { Resource, ResourceVariant } from './resource-table.ts';

interface ResourceReferences {
  resources: ReadonlyMap<number, Resource>;
  moduleOf(resource: Resource): AndroidModule;
  fromManifest: ReadonlySet<number>;
  /** By number, and those whose name the code or a list holds as a text: they may be looked up by it. */
  fromCode: ReadonlySet<number>;
  /** What one form of a resource leads to. */
  leadsTo(variant: ResourceVariant): readonly number[];
  /** Parts that could not be read, so that more may be led to than is known. */
  unread: readonly Problem[];
}

const known = new WeakMap<OpenedAndroid, Promise<ResourceReferences>>();

export function findReferences(opened: OpenedAndroid): Promise<ResourceReferences> {
  const references = known.get(opened) ?? collect(opened);
  known.set(opened, references);
  return references;
}

async function collect({ modules, zip }: OpenedAndroid): Promise<ResourceReferences> {
  const unread: Problem[] = [];
  const resources = new Map<number, Resource>();
  const moduleOf = new Map<Resource, AndroidModule>();
  for (const module of modules)
    for (const [id, resource] of module.table?.resources ?? []) {
      resources.set(id, resource);
      moduleOf.set(resource, module);
    }
  const fromManifest = new Set<number>();
  for (const { manifest } of modules) idsOfXml(manifest, (id) => fromManifest.add(id));
  const fromCode = new Set<number>();
  const texts = new Set<string>();
  for (const file of modules.flatMap((module) => module.dexFiles))
    await tryRead(unread, async () => {
      const { resourceIds, strings } = readDex(await zip.read(file), file).references();
      for (const id of resourceIds) fromCode.add(id);
      for (const text of strings) texts.add(text);
    });
  for (const resource of resources.values()) for (const text of namesIn(resource)) texts.add(text);
  for (const resource of resources.values()) if (texts.has(resource.name)) fromCode.add(resource.id);
  const byFile = new Map<string, readonly number[]>();
  for (const [resource, { parseXml, prefix }] of moduleOf)
    for (const { content } of resource.variants()) {
      const file = content.kind === 'value' ? xmlOf(content.value) : undefined;
      if (!file || byFile.has(prefix + file)) continue;
      const ids = new Set<number>();
      await tryRead(unread, async () =>
        idsOfXml(parseXml(await zip.read(prefix + file, MAX_XML_BYTES), prefix + file), (id) => ids.add(id)),
      );
      byFile.set(prefix + file, [...ids]);
    }
  const prefixes = [...new Set(modules.map(({ prefix }) => prefix))];
  return {
    resources,
    moduleOf: (resource) => moduleOf.get(resource)!,
    fromManifest,
    fromCode,
    unread,
    leadsTo: ({ content }) => {
      if (content.kind === 'bag')
        return [content.parent, ...content.items.flatMap(({ name, value }) => [name, ...idsOf(value)])];
      const file = xmlOf(content.value);
      return [
        ...idsOf(content.value),
        ...(file ? prefixes.flatMap((prefix) => byFile.get(prefix + file) ?? []) : []),
      ];
    },
  };
}

/** Items of lists that could be names of resources: an app may look up a picture by each of them. */
function namesIn(resource: Resource): string[] {
  if (resource.type !== 'array') return [];
  return resource
    .variants()
    .flatMap(({ content }) => (content.kind === 'bag' ? content.items : []))
    .flatMap(({ value }) =>
      value.kind === 'string' && /^\w{1,64}$/.test(value.text) ? [value.text.toLowerCase()] : [],
    );
}

const idsOf = (value: ResValue): number[] =>
  value.kind === 'reference' || value.kind === 'attribute' ? [value.id] : [];

function idsOfXml(element: XmlElement, take: (id: number) => void): void {
  for (const { resourceId, value } of element.attributes) {
    take(resourceId);
    idsOf(value).forEach(take);
  }
  for (const child of element.children) idsOfXml(child, take);
}

const xmlOf = (value: ResValue): string | undefined =>
  value.kind === 'string' && value.text.startsWith('res/') && value.text.endsWith('.xml')
    ? value.text
    : undefined;
