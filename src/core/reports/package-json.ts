/** Everything that was read of a package, as JSON in pieces: a table may hold more values than fit in one text. */
import type { AndroidModule } from '../formats/android/android-package.ts';
import type { ResValue } from '../formats/android/res-value.ts';
import type { Resource, ResourceContent } from '../formats/android/resource-table.ts';
import type { OpenedPackage } from '../formats/package.ts';
import { formatConfig, type ResourceConfig } from '../platform/android/resource-config.ts';

const PIECE_CHARACTERS = 2 ** 15;

/** Everything but the resources. Texts of an Android package stand among these, and are not said twice. */
export function appJson({ android, app }: OpenedPackage): string {
  if (!android?.table) return `${JSON.stringify(app, null, 2)}\n`;
  const { libraries, overlayables, stagedAliases } = android.table;
  const said = { ...app, texts: undefined, table: { libraries, overlayables, stagedAliases } };
  return `${JSON.stringify(said, null, 2).slice(2)}\n`;
}

/** The beginning of an object that `appJson` goes on with: one resource a line, in pieces. */
export function* resourcesJson(modules: readonly AndroidModule[]): Generator<string> {
  let [piece, separator] = ['{\n  "resources": [', '\n    '];
  const of: Saying = { configs: new Map(), nameOf: nameFinder(modules) };
  for (const { table } of modules)
    for (const resource of table?.resources.values() ?? []) {
      piece += separator + resourceLine(resource, of);
      separator = ',\n    ';
      if (piece.length < PIECE_CHARACTERS) continue;
      yield piece;
      piece = '';
    }
  yield `${piece}\n  ],\n`;
}

interface Saying {
  /** Configurations are shared by thousands of values. */
  configs: Map<ResourceConfig, string>;
  nameOf(id: number): string | undefined;
}

const nameFinder =
  (modules: readonly AndroidModule[]): Saying['nameOf'] =>
  (id) => {
    const resource = modules.map(({ table }) => table?.resources.get(id)).find(Boolean);
    return resource && `${resource.type}/${resource.name}`;
  };

/** `{"id":"0x7f010000","name":"string/title","public":false,"values":[{"config":"de","kind":"string","text":"Titel"}]}` */
function resourceLine(resource: Resource, of: Saying): string {
  const { id, isPublic, name, type } = resource;
  let line = `{"id":"${hexId(id)}","name":${JSON.stringify(`${type}/${name}`)},"public":${isPublic},"values":[`;
  let separator = '';
  for (const { config, content } of resource.variants()) {
    let said = of.configs.get(config);
    if (said === undefined) {
      said = JSON.stringify(formatConfig(config));
      of.configs.set(config, said);
    }
    line += `${separator}{"config":${said},${contentFields(content, of)}}`;
    separator = ',';
  }
  return `${line}]}`;
}

function contentFields(content: ResourceContent, of: Saying): string {
  if (content.kind === 'value') return valueFields(content.value, of);
  const items = content.items.map(
    ({ name, value }) => `{${idFields('key', name, of)},${valueFields(value, of)}}`,
  );
  const parent = content.parent === 0 ? '' : `${idFields('parent', content.parent, of)},`;
  return `"kind":"bag",${parent}"items":[${items.join(',')}]`;
}

/** Most values are plain texts, which are put together by hand: there may be 10^5 of them. */
function valueFields(value: ResValue, of: Saying): string {
  if (value.kind === 'string' && !value.spans) return `"kind":"string","text":${JSON.stringify(value.text)}`;
  if ('id' in value) return `"kind":"${value.kind}",${idFields('id', value.id, of)}`;
  return JSON.stringify(value).slice(1, -1);
}

/** An id, and the name of what it refers to where the package holds it. */
function idFields(field: string, id: number, { nameOf }: Saying): string {
  const name = nameOf(id);
  return `"${field}":"${hexId(id)}"${name === undefined ? '' : `,"${field}Name":${JSON.stringify(name)}`}`;
}

const hexId = (id: number): string => `0x${id.toString(16).padStart(8, '0')}`;
