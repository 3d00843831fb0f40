/**
 * The store of blocks that compiled asset catalogues are kept in. Apple does not document it; this is how files of 2013 to
 * 2024 are built. All numbers are big-endian.
 *
 *     "BOMStore" · u32 version · blocks in use · index at · bytes of index · names at · bytes of names
 *     index: u32 count, then (u32 offset · size) × count         names: u32 count, then (u32 block · u8 length · name) × count
 *     tree:  "tree" · u32 version · root block · …
 *     node:  u16 is a leaf · u16 count · u32 next leaf · u32 leaf before, then (u32 block of value · block of key) × count;
 *            of an inner node the values are nodes
 */
import { UnreadableError } from '../../model/problem.ts';
import { ByteReader } from '../byte-reader.ts';

const MAX_BLOCKS = 1_000_000;
const MAX_NAMES = 10_000;
const MAX_NODES = 100_000;
const MAX_TREE_ENTRIES = 500_000;
const MAX_DEPTH = 16;

interface BomStore {
  /** The block of a name; undefined where the store has none of that name. */
  block(name: string): ByteReader | undefined;
  /** All pairs of a tree, in the order of its leaves; none where there is no tree of that name. */
  tree(name: string): Generator<{ key: ByteReader; value: ByteReader }>;
}

/** @throws UnreadableError where it is no such store or is damaged; so do its blocks when they are read */
export function openBomStore(bytes: Uint8Array, what: string): BomStore {
  const reader = new ByteReader(bytes, what, 'big-endian');
  if (String.fromCharCode(...bytes.subarray(0, 8)) !== 'BOMStore')
    throw new UnreadableError({
      code: 'bom.none',
      place: what,
      found: 'something that is not a compiled asset catalogue',
    });
  const [indexAt, namesAt] = [reader.u32(16), reader.u32(24)];
  const blockCount = demand(reader.u32(indexAt), MAX_BLOCKS, 'blocks', what);
  const blockOf = (number: number): Uint8Array => {
    if (number >= blockCount) throw damaged(what, `block ${number} of ${blockCount}`);
    return reader.slice(reader.u32(indexAt + 4 + 8 * number), reader.u32(indexAt + 8 + 8 * number));
  };
  const names = new Map<string, number>();
  let at = namesAt + 4;
  for (let left = demand(reader.u32(namesAt), MAX_NAMES, 'names', what); left > 0; left--) {
    const length = reader.u8(at + 4);
    names.set(String.fromCharCode(...reader.slice(at + 5, length)), reader.u32(at));
    at += 5 + length;
  }
  const inOrder = (number: number) => new ByteReader(blockOf(number), what, 'big-endian');
  return {
    block: (name) => {
      const number = names.get(name);
      return number === undefined ? undefined : new ByteReader(blockOf(number), what);
    },
    *tree(name) {
      const number = names.get(name);
      if (number === undefined) return;
      const seen = new Set<number>();
      let node = firstLeaf(inOrder(number).u32(8), inOrder, what);
      for (let entries = 0; ; ) {
        const leaf = inOrder(node);
        const count = leaf.u16(2);
        entries += count;
        demand(entries, MAX_TREE_ENTRIES, `entries of ${name}`, what);
        for (let i = 0; i < count; i++)
          yield {
            value: new ByteReader(blockOf(leaf.u32(12 + 8 * i)), what),
            key: new ByteReader(blockOf(leaf.u32(16 + 8 * i)), what),
          };
        seen.add(node);
        node = leaf.u32(4);
        if (node === 0) return;
        if (seen.has(node) || seen.size > MAX_NODES)
          throw damaged(what, `a tree (${name}) that does not end`);
      }
    },
  };
}

function firstLeaf(root: number, inOrder: (number: number) => ByteReader, what: string): number {
  let node = root;
  for (let depth = 0; depth < MAX_DEPTH; depth++) {
    const reader = inOrder(node);
    if (reader.u16(0) !== 0) return node;
    node = reader.u32(12);
  }
  throw damaged(what, `a tree of more than ${MAX_DEPTH} levels`);
}

function demand(count: number, most: number, of: string, what: string): number {
  if (count > most) throw damaged(what, `${count} ${of}`);
  return count;
}

const damaged = (place: string, found: string) =>
  new UnreadableError({
    code: 'bom.damaged',
    place,
    found,
    remedy: 'The file is cut off or damaged: build the package again.',
  });
