/**
 * Which colours the layouts of a package put on one another, by day and by night: texts, and what lies behind them.
 *
 * Colours that a view's attributes do not have are looked up in the theme. What code sets later cannot be seen here, nor what
 * a layout of this package is put into; a background that is a picture or a gradient ends the look.
 */
import type { ColourPair, NamedColour } from '../../model/app-package.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import type { OpenedAndroid } from './apk.ts';
import { MAX_XML_BYTES, type XmlElement } from './binary-xml.ts';
import type { ResValue } from './res-value.ts';
import type { Resource } from './resource-table.ts';
import { attributeValue, MAX_DEPTH, merged, named, ThemeLook, type Values } from './theme-look.ts';

// Ids of the platform's public attributes (`android.R.attr`).
const ATTR = {
  theme: 0x01010000,
  enabled: 0x0101000e,
  colorBackground: 0x01010031,
  textColorPrimary: 0x01010036,
  windowBackground: 0x01010054,
  textSize: 0x01010095,
  textStyle: 0x01010097,
  textColor: 0x01010098,
  textColorHint: 0x0101009a,
  id: 0x010100d0,
  background: 0x010100d4,
  layout: 0x010100f2,
  text: 0x0101014f,
  hint: 0x01010150,
  drawable: 0x01010199,
  color: 0x010101a5,
  alpha: 0x0101031f,
  backgroundTint: 0x0101046b,
} as const;
const MASK_ID = 0x0102002e;
const BOLD = 1;

const MAX_PAIRS = 20_000;

/** What is drawn behind: a colour, something that cannot be reduced to one, or nothing that was found. */
type Behind = { colour: NamedColour; from: ColourPair['from'] } | 'picture' | 'nothing';

/** @returns one entry for each text of each layout, in light and in night; layouts that cannot be read are left out */
export async function findColourPairs({ modules, zip }: OpenedAndroid): Promise<ColourPair[]> {
  const pairs: ColourPair[] = [];
  const unread: Problem[] = [];
  for (const night of [false, true]) {
    const look = new ColourLook(modules, (file) => zip.read(file, MAX_XML_BYTES), night);
    const theme = look.appTheme();
    const behind = await look.windowBehind(theme);
    for (const layout of look.layouts())
      await tryRead(unread, async () => {
        if (pairs.length >= MAX_PAIRS) return;
        const found = await look.pairsOf(layout, theme, behind);
        pairs.push(...found.map((pair) => ({ ...pair, layout: `layout/${layout.name}`, night })));
      });
  }
  return pairs;
}

class ColourLook extends ThemeLook {
  async windowBehind(theme: Values): Promise<Behind> {
    const value = theme.get(ATTR.windowBackground) ?? theme.get(ATTR.colorBackground);
    return value ? this.drawn(value, theme, 'nothing', 'window') : 'nothing';
  }

  async pairsOf(layout: Resource, theme: Values, behind: Behind): Promise<FoundPair[]> {
    const root = await this.xmlOf(layout);
    const found: FoundPair[] = [];
    if (root) await this.walk(root, theme, behind, found, 0);
    return found;
  }

  private async walk(
    element: XmlElement,
    outerTheme: Values,
    outer: Behind,
    found: FoundPair[],
    depth: number,
  ): Promise<void> {
    if (depth > MAX_DEPTH) return;
    const overlay = attributeValue(element, ATTR.theme);
    const theme = overlay?.kind === 'reference' ? merged(outerTheme, this.style(overlay.id)) : outerTheme;
    if (element.name === 'include') {
      const target = this.target(attributeValue(element, ATTR.layout) ?? named(element, 'layout'));
      const root = target && (await this.xmlOf(target));
      if (root) await this.walk(root, theme, outer, found, depth + 1);
      return;
    }
    const values = this.valuesOf(element, theme);
    const own = values.get(ATTR.background);
    let behind = own ? await this.drawn(own, theme, outer, 'layout') : outer;
    const tint = own && values.get(ATTR.backgroundTint);
    if (tint) behind = await this.drawn(tint, theme, outer, 'layout');
    await this.addTexts(element, values, theme, behind, found);
    for (const child of element.children) await this.walk(child, theme, behind, found, depth + 1);
  }

  private async addTexts(
    element: XmlElement,
    values: Values,
    theme: Values,
    behind: Behind,
    found: FoundPair[],
  ): Promise<void> {
    if (!TEXT_CLASS.test(element.name) || typeof behind === 'string') return;
    const enabled = values.get(ATTR.enabled);
    if (enabled?.kind === 'boolean' && !enabled.value) return;
    const size = values.get(ATTR.textSize) && this.resolve(values.get(ATTR.textSize)!, theme);
    const style = values.get(ATTR.textStyle);
    const common = {
      view: this.nameOf(element),
      background: behind.colour,
      from: behind.from,
      ...(size?.kind === 'dimension' && ['sp', 'dp'].includes(size.unit) && { textSizeSp: size.value }),
      bold: style?.kind === 'integer' && (style.value & BOLD) === BOLD,
    };
    const hint = values.has(ATTR.hint) && (values.get(ATTR.textColorHint) ?? theme.get(ATTR.textColorHint));
    const text = values.get(ATTR.textColor) ?? theme.get(ATTR.textColorPrimary);
    for (const [value, part] of [
      [text, 'text'],
      [hint, 'hint'],
    ] as const) {
      const colour = value && (await this.colour(value, theme, 0));
      if (colour) found.push({ ...common, part, text: colour });
    }
  }

  private async colour(value: ResValue, theme: Values, depth: number): Promise<NamedColour | undefined> {
    if (depth > MAX_DEPTH) return undefined;
    if (value.kind === 'colour') return { name: `#${hex(value.argb)}`, argb: value.argb };
    if (value.kind === 'attribute') {
      const found = theme.get(value.id);
      return found && this.colour(found, theme, depth + 1);
    }
    const resource = this.target(value);
    const content = resource && this.contentOf(resource);
    if (!resource || content?.kind !== 'value') return undefined;
    const name = `${resource.type}/${resource.name}`;
    if (content.value.kind !== 'string') {
      const found = await this.colour(content.value, theme, depth + 1);
      return found && { name, argb: found.argb };
    }
    // a list by states: the last item is for the plain one
    const plain = (await this.xmlOf(resource))?.children.filter((child) => child.name === 'item').at(-1);
    const item = plain && attributeValue(plain, ATTR.color);
    const found = item && (await this.colour(item, theme, depth + 1));
    const alpha = plain && attributeValue(plain, ATTR.alpha);
    if (!found) return undefined;
    return { name, argb: alpha?.kind === 'float' ? withAlpha(found.argb, alpha.value) : found.argb };
  }

  /** What an element's background leaves to be seen. */
  private async drawn(
    value: ResValue,
    theme: Values,
    outer: Behind,
    from: ColourPair['from'],
  ): Promise<Behind> {
    const solid = (await this.colour(value, theme, 0)) ?? (await this.solidOf(value, theme, 0));
    if (!solid || solid === 'picture') return solid ?? 'picture';
    const alpha = solid.argb >>> 24;
    if (alpha === 255) return { colour: solid, from };
    if (alpha === 0) return outer;
    if (typeof outer === 'string') return outer;
    const name = `${solid.name} over ${outer.colour.name}`;
    return { colour: { name, argb: composite(solid.argb, outer.colour.argb) }, from: outer.from };
  }

  /** The one colour that a drawable is filled with. */
  private async solidOf(
    value: ResValue,
    theme: Values,
    depth: number,
  ): Promise<NamedColour | 'picture' | undefined> {
    const resolved = this.resolve(value, theme);
    const resource = this.target(resolved);
    if (!resource || depth > MAX_DEPTH) return undefined;
    const root = await this.xmlOf(resource).catch(() => undefined);
    const filled = root && (await this.fillOf(root, theme, depth));
    if (!filled || filled === 'picture') return filled ?? 'picture';
    const isUnnamed = filled.name.startsWith('#');
    return isUnnamed ? { name: `${resource.type}/${resource.name}`, argb: filled.argb } : filled;
  }

  private async fillOf(
    element: XmlElement,
    theme: Values,
    depth: number,
  ): Promise<NamedColour | 'picture' | undefined> {
    const child = (name: string) => element.children.find((one) => one.name === name);
    const colourIn = async (of: XmlElement | undefined) => {
      const value = of && attributeValue(of, ATTR.color);
      return value && this.colour(value, theme, depth + 1);
    };
    switch (element.name) {
      case 'color':
        return colourIn(element);
      case 'shape':
        return child('gradient') ? 'picture' : colourIn(child('solid'));
      case 'selector':
      case 'layer-list':
      case 'ripple': {
        const items = element.children.filter((one) => one.name === 'item' && !isMask(one));
        return items.length > 0 ? this.fillOf(items.at(-1)!, theme, depth + 1) : undefined;
      }
      case 'item':
      case 'inset': {
        const value = attributeValue(element, ATTR.drawable);
        if (value)
          return (await this.colour(value, theme, depth + 1)) ?? this.solidOf(value, theme, depth + 1);
        const [inner] = element.children;
        return inner && depth < MAX_DEPTH ? this.fillOf(inner, theme, depth + 1) : undefined;
      }
      default:
        return 'picture';
    }
  }
}

type FoundPair = Omit<ColourPair, 'layout' | 'night'>;

// Buttons that hold a picture show no text.
const TEXT_CLASS = /(TextView|(?<!Image|FloatingAction)Button|EditText|CheckBox|Switch|Chip)$/;
/** What only bounds a ripple is not drawn. */
function isMask(item: XmlElement): boolean {
  const id = attributeValue(item, ATTR.id);
  return id?.kind === 'reference' && id.id === MASK_ID;
}

const hex = (argb: number): string =>
  (argb >>> 24 === 255 ? argb & 0xffffff : argb >>> 0)
    .toString(16)
    .padStart(argb >>> 24 === 255 ? 6 : 8, '0');

const withAlpha = (argb: number, factor: number): number =>
  ((Math.round((argb >>> 24) * factor) << 24) | (argb & 0xffffff)) >>> 0;

/** One colour over an opaque one. */
export function composite(above: number, below: number): number {
  const alpha = (above >>> 24) / 255;
  const mix = (shift: number) =>
    Math.round(((above >> shift) & 255) * alpha + ((below >> shift) & 255) * (1 - alpha)) << shift;
  return (0xff000000 | mix(16) | mix(8) | mix(0)) >>> 0;
}
