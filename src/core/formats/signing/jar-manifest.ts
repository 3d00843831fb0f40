/**
 * Manifests and signature files of JAR archives (Java SE 17, *JAR File Specification*, Notes on Manifest and Signature
 * Files): sections of `Name: value` lines with a blank line between them; a line that begins with a blank goes on from
 * the line before.
 */

export interface ManifestSection {
  /** Of the entry that it speaks of; absent in the main section, and where the first attribute is another. */
  name?: string;
  /** The section as it stands, with the blank line behind it: what digests are made of. */
  bytes: Uint8Array;
  /** Names ignore case; of attributes of one name the first counts. */
  attribute(name: string): string | undefined;
}

export interface JarManifest {
  main: ManifestSection;
  sections: ManifestSection[];
}

const CR = 13;
const LF = 10;
const BLANK = 32;
const decoder = new TextDecoder();

export function parseManifest(bytes: Uint8Array): JarManifest {
  const [main, ...sections] = splitSections(bytes);
  return { main: main ?? sectionOf([], new Uint8Array()), sections };
}

function splitSections(bytes: Uint8Array): ManifestSection[] {
  const sections: ManifestSection[] = [];
  let lines: Uint8Array[] = [];
  let from = 0;
  for (let at = 0; at < bytes.length; ) {
    const { end, next } = lineAt(bytes, at);
    if (end > at) {
      if (lines.length === 0) from = at;
      lines.push(bytes.subarray(at, end));
    } else if (lines.length > 0) {
      sections.push(sectionOf(lines, bytes.subarray(from, next)));
      lines = [];
    }
    at = next;
  }
  if (lines.length > 0) sections.push(sectionOf(lines, bytes.subarray(from)));
  return sections;
}

/** Lines end in CR LF, LF or CR. */
function lineAt(bytes: Uint8Array, from: number): { end: number; next: number } {
  let end = from;
  while (end < bytes.length && bytes[end] !== CR && bytes[end] !== LF) end += 1;
  const next = bytes[end] === CR && bytes[end + 1] === LF ? end + 2 : end + 1;
  return { end, next: Math.min(next, bytes.length) };
}

function sectionOf(lines: readonly Uint8Array[], bytes: Uint8Array): ManifestSection {
  const whole: Uint8Array[][] = [];
  for (const line of lines)
    if (line[0] === BLANK && whole.length > 0) whole.at(-1)!.push(line.subarray(1));
    else whole.push([line]);
  const attributes = whole.map((pieces) => parseAttribute(decode(pieces)));
  const [first] = attributes;
  return {
    ...(first?.[0].toLowerCase() === 'name' && { name: first[1] }),
    bytes,
    attribute: (name) => attributes.find(([of]) => of.toLowerCase() === name.toLowerCase())?.[1],
  };
}

/** A line is broken between bytes, so a letter of several bytes may lie in two of them. */
function decode(pieces: readonly Uint8Array[]): string {
  if (pieces.length === 1) return decoder.decode(pieces[0]);
  const bytes = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    bytes.set(piece, at);
    at += piece.length;
  }
  return decoder.decode(bytes);
}

/** Blanks beyond the one after the colon are part of the value. */
function parseAttribute(line: string): [name: string, value: string] {
  const colon = line.indexOf(': ');
  return colon < 0 ? [line, ''] : [line.slice(0, colon), line.slice(colon + 2)];
}
