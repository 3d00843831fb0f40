/**
 * Resources and layouts as one device sees them, by day or by night: styles with all that they inherit, and the attributes of
 * a view in the platform's order (Android developers, *Styles and themes*, *Style hierarchy*): the element's own, its `style`,
 * the default style, its text appearance.
 */
import { variantPicker } from '../../platform/android/select-variant.ts';
import { targetDevice } from '../../platform/android/target-device.ts';
import type { AndroidModule } from './android-package.ts';
import type { XmlElement } from './binary-xml.ts';
import type { ResValue } from './res-value.ts';
import type { Resource } from './resource-table.ts';

const ATTR = {
  theme: 0x01010000,
  textAppearance: 0x01010034,
  buttonStyle: 0x01010048,
  editTextStyle: 0x0101006e,
  textViewStyle: 0x01010084,
  id: 0x010100d0,
} as const;

export const MAX_DEPTH = 32;
const MAX_LAYOUTS = 5000;

export type Values = ReadonlyMap<number, ResValue>;

export class ThemeLook {
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
    const [first] = this.themeIds();
    return first === undefined ? new Map() : this.style(first);
  }

  /** Of the application and of its activities, as the manifest names them. */
  protected themeIds(): number[] {
    const [base] = this.modules;
    const application = base?.manifest.children.find(({ name }) => name === 'application');
    const ids = [application, ...(application?.children ?? [])].flatMap((element) => {
      const value = element && attributeValue(element, ATTR.theme);
      return value?.kind === 'reference' ? [value.id] : [];
    });
    return [...new Set(ids)];
  }

  /** Attributes by their ids, the nearest winning. */
  protected valuesOf(element: XmlElement, theme: Values): Values {
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
  protected style(id: number, depth = 0): Values {
    const resource = this.resources.get(id)?.resource;
    const content = resource && this.contentOf(resource);
    if (content?.kind !== 'bag' || depth > MAX_DEPTH) return new Map();
    const own = new Map(content.items.map(({ name, value }) => [name, value]));
    return content.parent ? merged(this.style(content.parent, depth + 1), own) : own;
  }

  protected contentOf(resource: Resource) {
    const chosen = this.pick(resource);
    return chosen === undefined ? undefined : resource.variants()[chosen]?.content;
  }

  protected target(value: ResValue | undefined): Resource | undefined {
    return value?.kind === 'reference' ? this.resources.get(value.id)?.resource : undefined;
  }

  /** Follows attributes of the theme, and references to plain values, not to files. */
  protected resolve(value: ResValue, theme: Values, depth = 0): ResValue {
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

  protected async xmlOf(resource: Resource): Promise<XmlElement | undefined> {
    const content = this.contentOf(resource);
    const { parseXml, prefix } = this.resources.get(resource.id)!.module;
    if (content?.kind !== 'value' || content.value.kind !== 'string') return undefined;
    const file = content.value.text;
    return file.endsWith('.xml') ? parseXml(await this.read(prefix + file), prefix + file) : undefined;
  }

  /** Its id where it has one, else its class and line. */
  protected nameOf(element: XmlElement): string {
    const id = attributeValue(element, ATTR.id);
    const resource = this.target(id);
    const className = element.name.slice(element.name.lastIndexOf('.') + 1);
    return resource ? resource.name : `${className} in line ${element.line}`;
  }
}

const DEFAULT_STYLE: readonly (readonly [RegExp, number])[] = [
  [/EditText$/, ATTR.editTextStyle],
  [/(^|\.)Button$/, ATTR.buttonStyle],
  [/TextView$/, ATTR.textViewStyle],
];

export const attributeValue = (element: XmlElement, id: number): ResValue | undefined =>
  element.attributes.find(({ resourceId }) => resourceId === id)?.value;

/** An attribute without a resource id of its own. */
export const named = (element: XmlElement, name: string): ResValue | undefined =>
  element.attributes.find((one) => one.name === name && one.resourceId === 0)?.value;

export const merged = (below: Values, above: Values): Values => new Map([...below, ...above]);
