/**
 * Compiled asset catalogues (`Assets.car`): what pictures and colours there are, for which screens and which appearance.
 * Apple does not document the format; names of its parts are those that its own tools print. All numbers are little-endian.
 *
 *     CARHEADER       "RATC" · u32 version of the compiler · version of the format · time · count of renditions
 *     KEYFORMAT       "tmfk" · u32 version · count, then u32 attribute × count: what the numbers of a key mean
 *     APPEARANCEKEYS  tree: name → u16 number
 *     FACETKEYS       tree: name of an asset → u16 · u16 · u16 count, then (u16 attribute · u16 value) × count
 *     RENDITIONS      tree: u16 × attributes of the format → "ISTC" · u32 version · flags · width · height · scale × 100 ·
 *                     four letters of the pixel format · u32 colour space · u32 time · u16 layout · u16 · name (128) ·
 *                     u32 bytes of the list that follows · u32 × 2 · u32 bytes of the data behind that list
 *
 * Pixels are not decoded.
 */

import type { AssetCatalogue, AssetColour, AssetPicture, NamedThemeColour } from '../../model/app-package.ts';
import { UnreadableError } from '../../model/problem.ts';
import type { ByteReader } from '../byte-reader.ts';
import { openBomStore } from './bom-store.ts';

const ATTRIBUTE = { part: 2, appearance: 7, scale: 12, idiom: 15, identifier: 17, gamut: 24 } as const;
const PART = { picture: 181, colour: 217 } as const;
const IDIOMS = ['', 'iphone', 'ipad', 'tv', 'carplay', 'watch', 'marketing', 'mac', 'vision'];
// Layouts 10 to 12 are pictures of one, three and nine parts; 1003 is a picture that lies on a sheet with others.
const LAYOUT = { sheet: 1004, colour: 1009, sizes: 1010 } as const;
const HEAD_BYTES = 184;
const MAX_ATTRIBUTES = 64;
const MAX_NAME_BYTES = 128;

/** @throws UnreadableError where it is no such catalogue or is damaged */
export function readAssetCatalogue(bytes: Uint8Array, file: string): AssetCatalogue {
  const store = openBomStore(bytes, file);
  const header = store.block('CARHEADER');
  const format = store.block('KEYFORMAT');
  if (!header || !format || latin(header, 0, 4) !== 'RATC' || latin(format, 0, 4) !== 'tmfk')
    throw new UnreadableError({
      code: 'assets.none',
      place: file,
      found: 'a store that holds no asset catalogue',
    });
  const count = format.u32(8);
  if (count > MAX_ATTRIBUTES)
    throw new UnreadableError({ code: 'assets.damaged', place: file, found: `keys of ${count} numbers` });
  const attributes = Array.from({ length: count }, (_, i) => format.u32(12 + 4 * i));
  const appearances = new Map<number, string>();
  for (const { key, value } of store.tree('APPEARANCEKEYS'))
    appearances.set(value.u16(0), nameOf(key, key.bytes.length));
  const names = new Map<number, string>();
  for (const { key, value } of store.tree('FACETKEYS')) {
    const identifier = attributesOf(value).get(ATTRIBUTE.identifier);
    if (identifier !== undefined) names.set(identifier, nameOf(key, key.bytes.length));
  }
  const pictures = new Map<string, AssetPicture>();
  const colours = new Map<string, AssetColour>();
  for (const { key, value } of store.tree('RENDITIONS')) {
    const at = new Map(attributes.map((attribute, i) => [attribute, key.u16(2 * i)]));
    const name = names.get(at.get(ATTRIBUTE.identifier) ?? 0);
    if (name === undefined || value.bytes.length < HEAD_BYTES || latin(value, 0, 4) !== 'ISTC') continue;
    const of = {
      name,
      idiom: IDIOMS[at.get(ATTRIBUTE.idiom) ?? 0] ?? 'other',
      appearance: formatAppearance(appearances.get(at.get(ATTRIBUTE.appearance) ?? 0)),
    };
    const part = at.get(ATTRIBUTE.part);
    const place = [name, of.idiom, of.appearance, at.get(ATTRIBUTE.gamut) ?? 0];
    if (part === PART.colour) {
      const argb = readColour(value);
      if (argb !== undefined) colours.set(place.join('\n'), { ...of, argb });
    } else if (part === PART.picture) {
      // the same picture may be there once more for older systems, packed otherwise
      const picture = readPicture(value, of, at.get(ATTRIBUTE.scale) ?? 0);
      if (picture) pictures.set([...place, picture.scale, picture.isVector].join('\n'), picture);
    }
  }
  return { file, pictures: [...pictures.values()], colours: [...colours.values()] };
}

/** For all kinds of devices; none where no colour has a dark value: then the app has no dark theme of its own. */
export function namedColoursOf(catalogues: readonly AssetCatalogue[]): NamedThemeColour[] {
  const all = catalogues.flatMap(({ colours }) => colours).filter(({ idiom }) => idiom === '');
  const dark = new Map(
    all.filter(({ appearance }) => appearance === 'dark').map(({ argb, name }) => [name, argb]),
  );
  return all
    .filter(({ appearance }) => appearance === 'any')
    .map(({ argb, name }) => ({ name, light: argb, ...(dark.has(name) && { dark: dark.get(name)! }) }));
}

/** Names are written for the system's own use: `UIAppearanceDark`, `NSAppearanceNameDarkAqua`. */
function formatAppearance(name = ''): AssetPicture['appearance'] {
  const contrast = /HighContrast|AccessibilityHighContrast|Accessibility/.test(name);
  if (/Dark/.test(name)) return contrast ? 'dark, high contrast' : 'dark';
  return contrast ? 'high contrast' : 'any';
}

function readPicture(
  value: ByteReader,
  of: Pick<AssetPicture, 'name' | 'idiom' | 'appearance'>,
  scale: number,
): AssetPicture | undefined {
  const layout = value.u16(36);
  if (layout === LAYOUT.sheet || layout === LAYOUT.sizes) return undefined;
  const pixels = latin(value, 24, 4).split('').reverse().join('').trim();
  const [widthPx, heightPx] = [value.u32(12), value.u32(16)];
  const isVector = pixels === 'PDF' || pixels === 'SVG';
  if (!isVector && (widthPx === 0 || heightPx === 0)) return undefined;
  return { ...of, scale, widthPx, heightPx, isVector, source: nameOf(value, 168, 40) };
}

// "COLR" · u32 version · u32 colour space · u32 count, then f64 × count, the last of them alpha.
const COLOUR_SPACE = { sRgb: 1, grey: 2, displayP3: 3, extendedSRgb: 4, extendedGrey: 6 } as const;

/** @returns 32 bits, alpha highest; undefined where it is none, or of a colour space that is not known here */
function readColour(value: ByteReader): number | undefined {
  const at = HEAD_BYTES + value.u32(168);
  if (value.u16(36) !== LAYOUT.colour || latin(value, at, 4) !== 'RLOC') return undefined;
  const space = value.u32(at + 8) & 0xff;
  const count = value.u32(at + 12);
  if (count < 2 || count > 4) return undefined;
  const parts = Array.from({ length: count }, (_, i) => value.f64(at + 16 + 8 * i));
  const alpha = parts.pop()!;
  const rgb = toSRgb(space, parts);
  return rgb && [alpha, ...rgb].reduce<number>((argb, part) => argb * 256 + toByte(part), 0);
}

function toSRgb(space: number, parts: number[]): number[] | undefined {
  const isGrey = space === COLOUR_SPACE.grey || space === COLOUR_SPACE.extendedGrey;
  if (isGrey && parts.length === 1) return [parts[0]!, parts[0]!, parts[0]!];
  if (parts.length !== 3) return undefined;
  if (space === COLOUR_SPACE.sRgb || space === COLOUR_SPACE.extendedSRgb) return parts;
  return space === COLOUR_SPACE.displayP3 ? fromDisplayP3(parts) : undefined;
}

// CSS Color 4, section 17: from linear Display P3 to linear sRGB; both have the curve of sRGB.
const P3_TO_SRGB = [
  [1.2249401762805598, -0.22494017628055996, 0],
  [-0.042056954709688163, 1.0420569547096881, 0],
  [-0.019637554590334432, -0.078636045550631889, 1.0982736001409663],
] as const;

function fromDisplayP3(parts: readonly number[]): number[] {
  const linear = parts.map((part) => (part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4));
  return P3_TO_SRGB.map((row) => row.reduce<number>((sum, factor, i) => sum + factor * linear[i]!, 0)).map(
    (part) => (part <= 0.0031308 ? part * 12.92 : 1.055 * part ** (1 / 2.4) - 0.055),
  );
}

const toByte = (part: number): number => Math.round(255 * Math.min(1, Math.max(0, part || 0)));

function attributesOf(facet: ByteReader): Map<number, number> {
  const count = Math.min(facet.u16(4), MAX_ATTRIBUTES);
  return new Map(Array.from({ length: count }, (_, i) => [facet.u16(6 + 4 * i), facet.u16(8 + 4 * i)]));
}

const latin = (reader: ByteReader, at: number, length: number): string =>
  String.fromCharCode(...reader.slice(at, length));

const decoder = new TextDecoder();

function nameOf(reader: ByteReader, until: number, from = 0): string {
  const bytes = reader.slice(from, Math.min(until - from, MAX_NAME_BYTES * 4));
  const end = bytes.indexOf(0);
  return decoder.decode(end < 0 ? bytes : bytes.subarray(0, end));
}
