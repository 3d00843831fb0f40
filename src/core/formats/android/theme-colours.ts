/** Colours that themes of a package use by day and by night alike, and whether night has a value of its own for them. */
import type { NamedThemeColour } from '../../model/app-package.ts';
import { libraryOf } from '../../platform/android/library-resources.ts';
import type { OpenedAndroid } from './apk.ts';
import { MAX_XML_BYTES } from './binary-xml.ts';
import type { ResValue } from './res-value.ts';
import type { Resource } from './resource-table.ts';
import { MAX_DEPTH, ThemeLook, type Values } from './theme-look.ts';

/** @returns each colour once; none where the package has no night at all */
export function findThemeColours({ modules, zip }: OpenedAndroid): NamedThemeColour[] {
  const read = (file: string) => zip.read(file, MAX_XML_BYTES);
  const [day, night] = [false, true].map((dark) => new ColoursOfThemes(modules, read, dark)) as [
    ColoursOfThemes,
    ColoursOfThemes,
  ];
  const found = new Map<string, NamedThemeColour>();
  for (const [i, theme] of day.themes().entries()) {
    const byNight = night.themes()[i]!;
    for (const [attribute, value] of theme) {
      const resource = day.colourOf(value);
      // by night the theme may take another colour instead
      if (!resource || night.colourOf(byNight.get(attribute))?.id !== resource.id) continue;
      const [light, dark] = [day.argbOf(resource), night.argbOf(resource)];
      const name = `color/${resource.name}`;
      if (light !== undefined && libraryOf(name) === undefined)
        found.set(name, { name, light, ...(hasNight(resource) && dark !== undefined && { dark }) });
    }
  }
  return [...found.values()];
}

const hasNight = (resource: Resource): boolean => resource.configs().some(({ night }) => night === 'yes');

class ColoursOfThemes extends ThemeLook {
  themes(): Values[] {
    return this.themeIds().map((id) => this.style(id));
  }

  /** The colour with a name that a value stands for. */
  colourOf(value: ResValue | undefined): Resource | undefined {
    const resource = this.target(value);
    return resource?.type === 'color' ? resource : undefined;
  }

  argbOf(resource: Resource, depth = 0): number | undefined {
    const content = this.contentOf(resource);
    if (content?.kind !== 'value' || depth > MAX_DEPTH) return undefined;
    if (content.value.kind === 'colour') return content.value.argb;
    const next = this.colourOf(content.value);
    return next && this.argbOf(next, depth + 1);
  }
}
