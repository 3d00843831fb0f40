/** The resource table of a bundle module (AOSP `Resources.proto`, `Configuration.proto`), as the packed table's model. */
import type { PbfReader } from 'pbf';
import {
  ANY_CONFIG,
  localeFieldsOf,
  type ResourceConfig,
  word,
} from '../../../platform/android/resource-config.ts';
import type { ResValue } from '../res-value.ts';
import {
  type BagItem,
  finder,
  type Resource,
  type ResourceContent,
  type ResourceTable,
  type ResourceVariant,
} from '../resource-table.ts';
import { readItem, readReference } from './item.ts';
import { keep, readRoot } from './message.ts';

export function readProtoTable(bytes: Uint8Array, name: string): ResourceTable {
  const found = readRoot(bytes, name, tableField, {
    packageName: '',
    resources: new Map<number, Resource>(),
  });
  return { ...found, libraries: [], overlayables: [], stagedAliases: [], find: finder(found.resources) };
}

interface Found {
  packageName: string;
  resources: Map<number, Resource>;
}

function tableField(field: number, out: Found, pbf: PbfReader): void {
  if (field !== 2) return;
  const types: { id: number; name: string; entries: Entry[] }[] = [];
  let packageId = 0;
  pbf.readMessage((packageField) => {
    if (packageField === 1) packageId = readId(pbf);
    else if (packageField === 2) out.packageName ||= pbf.readString();
    else if (packageField === 3) types.push(readType(pbf));
  }, undefined);
  for (const type of types)
    for (const entry of type.entries) {
      const id = ((packageId << 24) | (type.id << 16) | entry.id) >>> 0;
      out.resources.set(id, {
        id,
        type: type.name,
        name: entry.name,
        isPublic: entry.isPublic,
        configs: () => entry.variants.map(({ config }) => config),
        variants: () => entry.variants,
      });
    }
}

/** `PackageId`, `TypeId` and `EntryId` all carry their number as field 1. */
const readId = (pbf: PbfReader): number =>
  pbf.readMessage<{ id: number }>(
    (field, out) => {
      if (field === 1) out.id = pbf.readVarint();
    },
    { id: 0 },
  ).id;

const readType = (pbf: PbfReader) =>
  pbf.readMessage<{ id: number; name: string; entries: Entry[] }>(
    (field, out) => {
      if (field === 1) out.id = readId(pbf);
      else if (field === 2) out.name = pbf.readString();
      else if (field === 3) out.entries.push(readEntry(pbf));
    },
    { id: 0, name: '', entries: [] },
  );

interface Entry {
  id: number;
  name: string;
  isPublic: boolean;
  variants: ResourceVariant[];
}

const PUBLIC = 2;

function readEntry(pbf: PbfReader): Entry {
  keep(pbf);
  return pbf.readMessage<Entry>(
    (field, out) => {
      if (field === 1) out.id = readId(pbf);
      else if (field === 2) out.name = pbf.readString();
      else if (field === 3) out.isPublic = readId(pbf) === PUBLIC;
      else if (field === 6) out.variants.push(readConfigValue(pbf));
    },
    { id: 0, name: '', isPublic: false, variants: [] },
  );
}

function readConfigValue(pbf: PbfReader): ResourceVariant {
  keep(pbf);
  return pbf.readMessage<ResourceVariant>(
    (field, out) => {
      if (field === 1) out.config = pbf.readMessage(configField, { ...ANY_CONFIG });
      else if (field === 2)
        pbf.readMessage((valueField) => {
          if (valueField === 4) out.content = { kind: 'value', value: readItem(pbf) };
          else if (valueField === 5) out.content = readCompound(pbf);
        }, undefined);
    },
    { config: ANY_CONFIG, content: { kind: 'value', value: { kind: 'null' } } },
  );
}

// Fields of `Configuration` that hold a number as it is, by the name of the qualifier.
const NUMBERS = new Map<number, keyof ResourceConfig>([
  [1, 'mcc'],
  [2, 'mnc'],
  [5, 'widthPx'],
  [6, 'heightPx'],
  [7, 'widthDp'],
  [8, 'heightDp'],
  [9, 'smallestWidthDp'],
  [18, 'density'],
  [24, 'sdkVersion'],
]);

// Fields that hold one of the words, and where the protobuf form numbers them in the other order.
const CHOICES = new Map<number, [field: Parameters<typeof word>[0], swapped?: true]>([
  [4, ['layoutDirection']],
  [10, ['screenSize']],
  [11, ['screenLong', true]],
  [12, ['round', true]],
  [13, ['colorGamut', true]],
  [14, ['dynamicRange', true]],
  [15, ['orientation']],
  [16, ['uiMode']],
  [17, ['night', true]],
  [19, ['touchscreen']],
  [20, ['keysHidden']],
  [21, ['keyboard']],
  [22, ['navigationHidden']],
  [23, ['navigation']],
  [26, ['gender']],
]);

function configField(field: number, out: ResourceConfig, pbf: PbfReader): void {
  const number = NUMBERS.get(field);
  const choice = CHOICES.get(field);
  if (number) Object.assign(out, { [number]: pbf.readVarint() });
  else if (choice) {
    const value = pbf.readVarint();
    const [name, swapped] = choice;
    Object.assign(out, { [name]: word(name, swapped && value > 0 ? 3 - value : value) });
  } else if (field === 3) Object.assign(out, localeFieldsOf(pbf.readString()));
}

// Keys under which the packed form holds the parts of compound values (`ResTable_map`).
const ATTR_TYPE = 0x01000000;
const ATTR_MIN = 0x01000001;
const ATTR_MAX = 0x01000002;
const PLURAL_KEYS = [0x01000005, 0x01000006, 0x01000007, 0x01000008, 0x01000009, 0x01000004];
const ARRAY_KEY = 0x02000000;

function readCompound(pbf: PbfReader): ResourceContent {
  return pbf.readMessage<{ content: ResourceContent }>(
    (field, out) => {
      if (field === 1) out.content = readAttr(pbf);
      else if (field === 2) out.content = readStyle(pbf);
      else if (field === 4) out.content = bag(0, readArray(pbf));
      else if (field === 5) out.content = bag(0, readPlural(pbf));
    },
    { content: bag(0, []) },
  ).content;
}

const bag = (parent: number, items: BagItem[]): ResourceContent => ({ kind: 'bag', parent, items });
const integer = (value: number): ResValue => ({ kind: 'integer', value, hex: false });

function readAttr(pbf: PbfReader): ResourceContent {
  const items: BagItem[] = [];
  pbf.readMessage((field) => {
    if (field === 1) items.unshift({ name: ATTR_TYPE, value: integer(pbf.readVarint()) });
    else if (field === 2) items.push({ name: ATTR_MIN, value: integer(pbf.readVarint(true)) });
    else if (field === 3) items.push({ name: ATTR_MAX, value: integer(pbf.readVarint(true)) });
    else if (field === 4) items.push(readSymbol(pbf));
  }, undefined);
  return bag(0, items);
}

const readSymbol = (pbf: PbfReader): BagItem =>
  pbf.readMessage<BagItem>(
    (field, out) => {
      if (field === 3) out.name = readReference(pbf).id;
      else if (field === 4) out.value = integer(pbf.readVarint() | 0);
    },
    { name: 0, value: integer(0) },
  );

function readStyle(pbf: PbfReader): ResourceContent {
  const items: BagItem[] = [];
  let parent = 0;
  pbf.readMessage((field) => {
    if (field === 1) parent = readReference(pbf).id;
    else if (field === 3)
      items.push(
        pbf.readMessage<BagItem>(
          (entryField, out) => {
            if (entryField === 3) out.name = readReference(pbf).id;
            else if (entryField === 4) out.value = readItem(pbf);
          },
          { name: 0, value: { kind: 'null' } },
        ),
      );
  }, undefined);
  return bag(
    parent,
    items.sort((a, b) => a.name - b.name),
  );
}

function readArray(pbf: PbfReader): BagItem[] {
  const items: BagItem[] = [];
  pbf.readMessage((field) => {
    if (field !== 1) return;
    pbf.readMessage((elementField) => {
      if (elementField === 3) items.push({ name: ARRAY_KEY + items.length, value: readItem(pbf) });
    }, undefined);
  }, undefined);
  return items;
}

function readPlural(pbf: PbfReader): BagItem[] {
  const items: BagItem[] = [];
  pbf.readMessage((field) => {
    if (field !== 1) return;
    let arity = 0;
    let value: ResValue = { kind: 'null' };
    pbf.readMessage((entryField) => {
      if (entryField === 3) arity = pbf.readVarint();
      else if (entryField === 4) value = readItem(pbf);
    }, undefined);
    items.push({ name: PLURAL_KEYS[arity] ?? PLURAL_KEYS.at(-1)!, value });
  }, undefined);
  return items;
}
