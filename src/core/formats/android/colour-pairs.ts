/**
 * Which colours the layouts of a package put on one another, by day and by night: texts, and what lies behind them.
 *
 * Attributes are looked up in the platform's order (Android developers, *Styles and themes*, *Style hierarchy*): the
 * element's own, its `style`, the default style, its text appearance; colours that none of them has, in the theme. What code sets later cannot be seen here, nor what a layout
 * of this package is put into; a background that is a picture or a gradient ends the look.
 */
import type { ColourPair, NamedColour } from '../../model/app-package.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import { variantPicker } from '../../platform/android/select-variant.ts';
import { targetDevice } from '../../platform/android/target-device.ts';
import type { AndroidModule } from './android-package.ts';
import type { OpenedAndroid } from './apk.ts';
import { MAX_XML_BYTES, type XmlElement } from './binary-xml.ts';
import type { ResValue } from './res-value.ts';
import type { Resource } from './resource-table.ts';

// Ids of the platform's public attributes (`android.R.attr`).
const ATTR = {
  theme: 0x01010000,
  enabled: 0x0101000e,
  colorBackground: 0x01010031,
  textAppearance: 0x01010034,
  textColorPrimary: 0x01010036,
  buttonStyle: 0x01010048,
  windowBackground: 0x01010054,
  editTextStyle: 0x0101006e,
  textViewStyle: 0x01010084,
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

const MAX_DEPTH = 32;
const MAX_LAYOUTS = 5000;
const MAX_PAIRS = 20_000;

type Values = ReadonlyMap<number, ResValue>;

/** What is drawn behind: a colour, something that cannot be reduced to one, or nothing that was found. */
type Behind = { colour: NamedColour; from: ColourPair['from'] } | 'picture' | 'nothing';

/** @returns one entry for each text of each layout, in light and in night; layouts that cannot be read are left out */
export async function findColourPairs({ modules, zip }: OpenedAndroid): Promise<ColourPair[]> {
  const pairs: ColourPair[] = [];
  const unread: Problem[] = [];
  for (const night of [false, true]) {
    const look = new ThemeLook(modules, (file) => zip.read(file, MAX_XML_BYTES), night);
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

/** The resources as one device sees them, by day or by night. */
class ThemeLook {
  private readonly resources = new Map<number, { resource: Resource; module: AndroidModule }>();
  private readonly pick: ReturnType<typeof variantPicker>;
  private readonly modules: readonly AndroidModule[];
  private readonly read: (file: string) => Promise<Uint8Array>;

  constructor(
    modules: readonly AndroidModule[],
    read: (file: string) => Promise<Uint8Array>,
    night: boolean,
  ) {
    this.modules = modules;
    this.read = read;
    for (const module of modules)
      for (const [id, resource] of module.table?.resources ?? [])
        this.resources.set(id, { resource, module });
    this.pick = variantPicker(targetDevice({ locale: 'en', densityDpi: 480, night }));
  }

  layouts(): Resource[] {
    return [...this.resources.values()]
      .map(({ resource }) => resource)
      .filter(({ type }) => type === 'layout')
      .slice(0, MAX_LAYOUTS);
  }

  /** That of the application, or of the first activity that names one. */
  appTheme(): Values {
    const [base] = this.modules;
    const application = base?.manifest.children.find(({ name }) => name === 'application');
    const named = [application, ...(application?.children ?? [])].flatMap((element) => {
      const value = element && attributeValue(element, ATTR.theme);
      return value?.kind === 'reference' ? [value.id] : [];
    });
    return named[0] === undefined ? new Map() : this.style(named[0]);
  }

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

  /** Attributes by their ids, the nearest winning. */
  private valuesOf(element: XmlElement, theme: Values): Values {
    const own = new Map(
      element.attributes.flatMap(({ resourceId, value }) =>
        resourceId ? [[resourceId, value] as const] : [],
      ),
    );
    const styleOf = (value: ResValue | undefined): Values => {
      const resolved = value && this.resolve(value, theme);
      return resolved?.kind === 'reference' ? this.style(resolved.id) : new Map();
    };
    const style = styleOf(named(element, 'style'));
    const byDefault = styleOf(
      theme.get(DEFAULT_STYLE.find(([pattern]) => pattern.test(element.name))?.[1] ?? 0),
    );
    const appearance = styleOf(
      own.get(ATTR.textAppearance) ?? style.get(ATTR.textAppearance) ?? byDefault.get(ATTR.textAppearance),
    );
    return merged(merged(merged(appearance, byDefault), style), own);
  }

  /** A style with all that it inherits. */
  private style(id: number, depth = 0): Values {
    const resource = this.resources.get(id)?.resource;
    const content = resource && this.contentOf(resource);
    if (content?.kind !== 'bag' || depth > MAX_DEPTH) return new Map();
    const own = new Map(content.items.map(({ name, value }) => [name, value]));
    return content.parent ? merged(this.style(content.parent, depth + 1), own) : own;
  }

  private contentOf(resource: Resource) {
    const chosen = this.pick(resource);
    return chosen === undefined ? undefined : resource.variants()[chosen]?.content;
  }

  private target(value: ResValue | undefined): Resource | undefined {
    return value?.kind === 'reference' ? this.resources.get(value.id)?.resource : undefined;
  }

  /** Follows attributes of the theme, and references to plain values, not to files. */
  private resolve(value: ResValue, theme: Values, depth = 0): ResValue {
    if (depth > MAX_DEPTH) return value;
    if (value.kind === 'attribute') {
      const found = theme.get(value.id);
      return found ? this.resolve(found, theme, depth + 1) : value;
    }
    const content = value.kind === 'reference' && this.target(value) && this.contentOf(this.target(value)!);
    return content && content.kind === 'value' && content.value.kind !== 'string'
      ? this.resolve(content.value, theme, depth + 1)
      : value;
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

  private async xmlOf(resource: Resource): Promise<XmlElement | undefined> {
    const content = this.contentOf(resource);
    const { parseXml, prefix } = this.resources.get(resource.id)!.module;
    if (content?.kind !== 'value' || content.value.kind !== 'string') return undefined;
    const file = content.value.text;
    return file.endsWith('.xml') ? parseXml(await this.read(prefix + file), prefix + file) : undefined;
  }

  /** Its id where it has one, else its class and line. */
  private nameOf(element: XmlElement): string {
    const id = attributeValue(element, ATTR.id);
    const resource = this.target(id);
    const className = element.name.slice(element.name.lastIndexOf('.') + 1);
    return resource ? resource.name : `${className} in line ${element.line}`;
  }
}

type FoundPair = Omit<ColourPair, 'layout' | 'night'>;

const TEXT_CLASS = /(TextView|Button|EditText|CheckBox|Switch|Chip)$/;
const DEFAULT_STYLE: readonly (readonly [RegExp, number])[] = [
  [/EditText$/, ATTR.editTextStyle],
  [/(^|\.)Button$/, ATTR.buttonStyle],
  [/TextView$/, ATTR.textViewStyle],
];

const attributeValue = (element: XmlElement, id: number): ResValue | undefined =>
  element.attributes.find(({ resourceId }) => resourceId === id)?.value;

/** An attribute without a resource id of its own. */
const named = (element: XmlElement, name: string): ResValue | undefined =>
  element.attributes.find((one) => one.name === name && one.resourceId === 0)?.value;

/** What only bounds a ripple is not drawn. */
function isMask(item: XmlElement): boolean {
  const id = attributeValue(item, ATTR.id);
  return id?.kind === 'reference' && id.id === MASK_ID;
}

const merged = (below: Values, above: Values): Values => new Map([...below, ...above]);

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
