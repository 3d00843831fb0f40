/** Everything that was read of a package, as JSON in pieces: a table may hold more values than fit in one text. */
import type { ResValue } from '../formats/android/res-value.ts';
import { type ResourceConfig, sayConfig } from '../formats/android/resource-config.ts';
import type { Resource, ResourceContent } from '../formats/android/resource-table.ts';
import type { OpenedPackage } from '../formats/package.ts';

const PIECE_CHARACTERS = 2 ** 16;

/** Texts of an Android package stand among its resources, and are not said twice. */
export function* packageJson({ android, app }: OpenedPackage): Generator<string> {
  if (!android?.table) {
    yield `${JSON.stringify(app, null, 2)}\n`;
    return;
  }
  const { libraries, overlayables, stagedAliases } = android.table;
  const head = JSON.stringify(
    { ...app, texts: undefined, table: { libraries, overlayables, stagedAliases } },
    null,
    2,
  );
  yield `${head.slice(0, -2)},\n  "resources": [`;
  let [piece, separator] = ['', '\n    '];
  const configs = new Map<ResourceConfig, string>();
  for (const { table } of android.modules)
    for (const resource of table?.resources.values() ?? []) {
      piece += separator + resourceLine(resource, configs);
      separator = ',\n    ';
      if (piece.length < PIECE_CHARACTERS) continue;
      yield piece;
      piece = '';
    }
  yield `${piece}\n  ]\n}\n`;
}

/** `{"id":"0x7f010000","name":"string/title","public":false,"values":[{"config":"de","kind":"string","text":"Titel"}]}` */
function resourceLine(resource: Resource, configs: Map<ResourceConfig, string>): string {
  const { id, isPublic, name, type } = resource;
  const values = resource.variants().map(({ config, content }) => {
    const said = configs.get(config) ?? JSON.stringify(sayConfig(config));
    configs.set(config, said);
    return `{"config":${said},${contentFields(content)}}`;
  });
  return `{"id":"${hexId(id)}","name":${JSON.stringify(`${type}/${name}`)},"public":${isPublic},"values":[${values.join(',')}]}`;
}

function contentFields(content: ResourceContent): string {
  if (content.kind === 'value') return valueFields(content.value);
  const items = content.items.map(({ name, value }) => `{"name":"${hexId(name)}",${valueFields(value)}}`);
  return `"kind":"bag","parent":"${hexId(content.parent)}","items":[${items.join(',')}]`;
}

/** Most values are plain texts, which are put together by hand: there may be 10^5 of them. */
function valueFields(value: ResValue): string {
  if (value.kind === 'string' && !value.spans) return `"kind":"string","text":${JSON.stringify(value.text)}`;
  if ('id' in value) return `"kind":"${value.kind}","id":"${hexId(value.id)}"`;
  return JSON.stringify(value).slice(1, -1);
}

const hexId = (id: number): string => `0x${id.toString(16).padStart(8, '0')}`;
