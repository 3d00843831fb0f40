// Files that only Apple's own tools write, as far as the demo needs them: a compiled asset catalogue and a compiled interface
// file. Neither format is documented; both were written after files that those tools had made.

const big32 = (...numbers) => {
  const bytes = Buffer.alloc(4 * numbers.length);
  for (const [i, number] of numbers.entries()) bytes.writeUInt32BE(number >>> 0, 4 * i);
  return bytes;
};
const little32 = (...numbers) => {
  const bytes = Buffer.alloc(4 * numbers.length);
  for (const [i, number] of numbers.entries()) bytes.writeUInt32LE(number >>> 0, 4 * i);
  return bytes;
};
const little16 = (...numbers) => {
  const bytes = Buffer.alloc(2 * numbers.length);
  for (const [i, number] of numbers.entries()) bytes.writeUInt16LE(number, 2 * i);
  return bytes;
};
const padded = (text, length) => Buffer.concat([Buffer.from(text), Buffer.alloc(length)]).subarray(0, length);

// Attributes of keys: appearance, scale, idiom, part, element, identifier.
const KEY_FORMAT = [7, 12, 15, 2, 1, 17];
const APPEARANCES = { UIAppearanceAny: 0, UIAppearanceDark: 1 };
const [ELEMENT, PICTURE, COLOUR] = [85, 181, 217];

/** What is drawn where: its name, four letters of its pixels, its layout, its size, its data. */
function rendition({ data = Buffer.alloc(0), height = 0, layout, name, pixels, scale = 0, width = 0 }) {
  const head = [
    Buffer.from('ISTC'),
    little32(1, 0, width, height, 100 * scale),
    Buffer.from(pixels),
    little32(1, 0),
    little16(layout, 0),
    padded(name, 128),
    little32(0, 0, 0, data.length),
  ];
  return Buffer.concat([...head, data]);
}

/**
 * @param {{ name: string, scale: number, width: number, height: number }[]} pictures
 * @param {{ name: string, dark?: boolean, rgb: number[] }[]} colours parts from 0 to 1
 */
export function assetCatalogue(pictures, colours) {
  const names = [...new Set([...pictures, ...colours].map(({ name }) => name))];
  const idOf = (name) => 1000 + names.indexOf(name);
  const keyOf = ({ appearance = 0, name, part, scale = 1 }) =>
    little16(appearance, scale, 0, part, ELEMENT, idOf(name));
  const renditions = [
    ...pictures.map(({ height, name, scale, width }) => [
      keyOf({ name, part: PICTURE, scale }),
      rendition({
        ...{ height, layout: 12, pixels: 'BGRA', scale, width },
        name: `${name}${scale > 1 ? `@${scale}x` : ''}.png`,
      }),
    ]),
    ...colours.map(({ dark, name, rgb }) => {
      const parts = Buffer.alloc(32);
      for (const [i, part] of [...rgb, 1].entries()) parts.writeDoubleLE(part, 8 * i);
      const data = Buffer.concat([Buffer.from('RLOC'), little32(1, 1, 4), parts]);
      return [
        keyOf({ appearance: Number(dark ?? false), name, part: COLOUR }),
        rendition({ data, layout: 1009, name, pixels: '\0\0\0\0' }),
      ];
    }),
  ];
  const facets = names.map((name) => [
    Buffer.from(name),
    Buffer.concat([little16(0, 0, 2), little16(1, ELEMENT, 17, idOf(name))]),
  ]);
  const header = Buffer.concat([
    Buffer.from('RATC'),
    little32(900, 17, 0, renditions.length),
    padded('Kelpline', 128 + 256 + 16 + 16),
  ]);
  const store = bomStore();
  store.name('CARHEADER', store.block(header));
  store.name('RENDITIONS', store.tree(renditions));
  store.name('FACETKEYS', store.tree(facets));
  store.name(
    'APPEARANCEKEYS',
    store.tree(Object.entries(APPEARANCES).map(([name, id]) => [Buffer.from(name), little16(id)])),
  );
  store.name(
    'KEYFORMAT',
    store.block(Buffer.concat([Buffer.from('tmfk'), little32(0, KEY_FORMAT.length, ...KEY_FORMAT)])),
  );
  return store.bytes();
}

function bomStore() {
  const blocks = [Buffer.alloc(0)];
  const names = [];
  const block = (bytes) => blocks.push(bytes) - 1;
  const tree = (pairs) => {
    const entries = pairs.map(([key, value]) => big32(block(value), block(key)));
    const leaf = Buffer.concat([Buffer.from([0, 1, 0, pairs.length]), big32(0, 0), ...entries]);
    return block(
      Buffer.concat([Buffer.from('tree'), big32(1, block(leaf), 4096, pairs.length), Buffer.alloc(1)]),
    );
  };
  const bytes = () => {
    const HEAD = 512;
    let at = HEAD;
    const index = blocks.map((one, i) => {
      const entry = i === 0 ? big32(0, 0) : big32(at, one.length);
      at += one.length;
      return entry;
    });
    const indexBytes = Buffer.concat([big32(blocks.length), ...index]);
    const nameBytes = Buffer.concat([
      big32(names.length),
      ...names.flatMap(([name, number]) => [big32(number), Buffer.from([name.length]), Buffer.from(name)]),
    ]);
    const head = Buffer.concat([
      Buffer.from('BOMStore'),
      big32(1, blocks.length - 1, at, indexBytes.length, at + indexBytes.length, nameBytes.length),
    ]);
    return Buffer.concat([padded(head, HEAD), ...blocks, indexBytes, nameBytes]);
  };
  return { block, tree, name: (name, number) => names.push([name, number]), bytes };
}

/** In groups of seven bits, the lowest first; the last one is marked. */
function short(number) {
  const groups = [];
  let left = number;
  do {
    groups.push(left % 128);
    left = Math.floor(left / 128);
  } while (left > 0);
  groups[groups.length - 1] += 128;
  return Buffer.from(groups);
}

/** @param {[className: string, values: Record<string, string | { object: number }>][]} objects */
export function interfaceFile(objects) {
  const keys = [...new Set(objects.flatMap(([, values]) => Object.keys(values)))];
  const classNames = [...new Set(objects.map(([className]) => className))];
  let first = 0;
  const objectBytes = objects.map(([className, values]) => {
    const count = Object.keys(values).length;
    const entry = [classNames.indexOf(className), first, count].map(short);
    first += count;
    return Buffer.concat(entry);
  });
  const valueBytes = objects.flatMap(([, values]) =>
    Object.entries(values).map(([key, value]) =>
      typeof value === 'string'
        ? Buffer.concat([
            short(keys.indexOf(key)),
            Buffer.from([8]),
            short(Buffer.byteLength(value)),
            Buffer.from(value),
          ])
        : Buffer.concat([short(keys.indexOf(key)), Buffer.from([10]), little32(value.object)]),
    ),
  );
  const runs = [
    objectBytes,
    keys.map((key) => Buffer.concat([short(key.length), Buffer.from(key)])),
    valueBytes,
    classNames.map((name) => Buffer.concat([short(name.length + 1), short(0), Buffer.from(`${name}\0`)])),
  ];
  const HEAD = 50;
  let at = HEAD;
  const head = [Buffer.from('NIBArchive'), little32(1, 9)];
  for (const run of runs) {
    head.push(little32(run.length, at));
    at += run.reduce((sum, { length }) => sum + length, 0);
  }
  return Buffer.concat([...head, ...runs.flat()]);
}
