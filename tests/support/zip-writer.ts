import { crc32, deflateRawSync } from 'node:zlib';

export interface WrittenEntry {
  name: string;
  data: Uint8Array;
  stored?: boolean;
  /** Written into the headers instead of the truth, for hostile archives. */
  claims?: { sizeBytes?: number; crc32?: number; method?: number; flags?: number };
}

/** A plain zip archive (APPNOTE 4.3), written by hand so that tests can lie in it. */
export function writeZip(entries: WrittenEntry[], comment = ''): Uint8Array {
  const parts: Buffer[] = [];
  const directory: Buffer[] = [];
  let offset = 0;
  for (const { name, data, stored, claims = {} } of entries) {
    const body = stored ? Buffer.from(data) : deflateRawSync(data);
    const nameBytes = Buffer.from(name, 'utf8');
    const common = Buffer.alloc(26);
    common.writeUInt16LE(20, 0);
    common.writeUInt16LE(claims.flags ?? 0x800, 2);
    common.writeUInt16LE(claims.method ?? (stored ? 0 : 8), 4);
    common.writeUInt32LE(claims.crc32 ?? crc32(data), 10);
    common.writeUInt32LE(body.length, 14);
    common.writeUInt32LE(claims.sizeBytes ?? data.length, 18);
    common.writeUInt16LE(nameBytes.length, 22);
    const local = Buffer.concat([u32(0x04034b50), common, nameBytes, body]);
    // ten bytes of comment length, disk number and attributes
    directory.push(
      Buffer.concat([u32(0x02014b50), u16(20), common, Buffer.alloc(10), u32(offset), nameBytes]),
    );
    parts.push(local);
    offset += local.length;
  }
  const central = Buffer.concat(directory);
  const end = Buffer.concat([
    u32(0x06054b50),
    u16(0),
    u16(0),
    u16(entries.length),
    u16(entries.length),
    u32(central.length),
    u32(offset),
    u16(comment.length),
    Buffer.from(comment),
  ]);
  return new Uint8Array(Buffer.concat([...parts, central, end]));
}

const u16 = (value: number): Buffer => {
  const buffer = Buffer.alloc(2);
  buffer.writeUInt16LE(value);
  return buffer;
};

const u32 = (value: number): Buffer => {
  const buffer = Buffer.alloc(4);
  buffer.writeUInt32LE(value >>> 0);
  return buffer;
};
