/**
 * The installed app's resources as the phone's OS gives them out: the variant that the platform picks for the device.
 * Formats follow java.util.Formatter as far as an app's texts use it.
 */
import type { XmlElement } from '../../core/formats/android/binary-xml.ts';
import { attributeOf, readBinaryXml } from '../../core/formats/android/binary-xml.ts';
import type { ResValue } from '../../core/formats/android/res-value.ts';
import type { Resource, ResourceTable, ResourceVariant } from '../../core/formats/android/resource-table.ts';
import type { Zip } from '../../core/formats/zip.ts';
import { selectVariant } from '../../core/platform/android/select-variant.ts';
import { targetDevice } from '../../core/platform/android/target-device.ts';

export interface DeviceConfig {
  locale: string;
  night: boolean;
  densityDpi: number;
  widthDp: number;
  heightDp: number;
}

/** One path of a vector drawable. Colours are `#rrggbb`; none means that it is not filled or stroked. */
interface VectorPath {
  data: string;
  fill?: string;
  stroke?: string;
  strokeWidth: number;
}

export interface Vector {
  viewportWidth: number;
  viewportHeight: number;
  paths: VectorPath[];
}

export interface InstalledResources {
  string(key: string, config: DeviceConfig, args: (string | number)[]): string;
  plural(key: string, count: number, config: DeviceConfig, args: (string | number)[]): string;
  colour(name: string, config: DeviceConfig): string;
  vector(name: string, config: DeviceConfig): Promise<Vector>;
}

const PLURAL_KEY: Record<string, number> = {
  other: 0x01000004,
  zero: 0x01000005,
  one: 0x01000006,
  two: 0x01000007,
  few: 0x01000008,
  many: 0x01000009,
};

export function installResources(table: ResourceTable, zip: Zip): InstalledResources {
  const pick = (type: string, name: string, config: DeviceConfig): ResourceVariant => {
    const resource = table.find(type, name);
    if (!resource) throw new Error(`the installed app has no resource ${type}/${name}`);
    return variantOf(resource, config);
  };
  // the platform's own choice; asked again each time, as an app does
  const variantOf = (resource: Resource, config: DeviceConfig): ResourceVariant => {
    const chosen = selectVariant(resource, targetDevice(config));
    if (chosen === undefined)
      throw new Error(`no variant of ${resource.type}/${resource.name} fits the device`);
    return resource.variants()[chosen]!;
  };
  const contentOf = (variant: ResourceVariant): ResValue =>
    variant.content.kind === 'value' ? variant.content.value : { kind: 'null' };

  const colourOf = (value: ResValue, config: DeviceConfig): string | undefined => {
    if (value.kind === 'colour') return `#${(value.argb & 0xffffff).toString(16).padStart(6, '0')}`;
    const target = value.kind === 'reference' ? table.resources.get(value.id) : undefined;
    return target && colourOf(contentOf(variantOf(target, config)), config);
  };

  return {
    string: (key, config, args) => {
      const value = contentOf(pick('string', key, config));
      return fillIn(value.kind === 'string' ? value.text : '', config.locale, args);
    },
    plural: (key, count, config, args) => {
      const { content } = pick('plurals', key, config);
      const items = content.kind === 'bag' ? content.items : [];
      const category = new Intl.PluralRules(config.locale).select(count);
      const item =
        items.find(({ name }) => name === PLURAL_KEY[category]) ??
        items.find(({ name }) => name === PLURAL_KEY.other);
      return fillIn(item?.value.kind === 'string' ? item.value.text : '', config.locale, [count, ...args]);
    },
    colour: (name, config) => colourOf(contentOf(pick('color', name, config)), config) ?? '#000000',
    vector: async (name, config) => {
      const value = contentOf(pick('drawable', name, config));
      if (value.kind !== 'string') throw new Error(`drawable/${name} is no file`);
      return vectorOf(readBinaryXml(await zip.read(value.text), value.text), (colour) =>
        colourOf(colour, config),
      );
    },
  };
}

function fillIn(template: string, locale: string, args: (string | number)[]): string {
  let next = 0;
  return template.replace(/%(?:(\d+)\$)?([sd%])/g, (_, position: string | undefined, conversion: string) => {
    if (conversion === '%') return '%';
    const arg = args[position ? Number(position) - 1 : next++];
    if (conversion === 'd' && typeof arg === 'number')
      return new Intl.NumberFormat(locale, { useGrouping: false }).format(arg);
    return String(arg ?? 'null');
  });
}

function vectorOf(root: XmlElement, colourOf: (value: ResValue) => string | undefined): Vector {
  const numberAt = (element: XmlElement, name: string, fallback: number) => {
    const value = attributeOf(element, name)?.value;
    return value && 'value' in value ? Number(value.value) : fallback;
  };
  return {
    viewportWidth: numberAt(root, 'viewportWidth', 24),
    viewportHeight: numberAt(root, 'viewportHeight', 24),
    paths: root.children
      .filter((child) => child.name === 'path')
      .map((path) => {
        const data = attributeOf(path, 'pathData')?.value;
        const fill = attributeOf(path, 'fillColor')?.value;
        const stroke = attributeOf(path, 'strokeColor')?.value;
        return {
          data: data?.kind === 'string' ? data.text : '',
          fill: fill && colourOf(fill),
          stroke: stroke && colourOf(stroke),
          strokeWidth: numberAt(path, 'strokeWidth', 1),
        };
      }),
  };
}
