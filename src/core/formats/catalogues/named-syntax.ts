import type { TextSyntax } from '../../model/catalogue.ts';
import type { CatalogueSyntax } from '../../model/intent-parts.ts';

/** The syntax that a team's intent file gives to a catalogue; undefined where it is silent. */
export function namedSyntax(path: string, named: readonly CatalogueSyntax[]): TextSyntax | undefined {
  const parts = path.replaceAll('\\', '/').split('/');
  return named.find(({ files }) => {
    const wanted = files.split('/');
    const end = parts.slice(-wanted.length);
    return end.length === wanted.length && wanted.every((pattern, i) => fits(end[i]!, pattern));
  })?.syntax;
}

const fits = (name: string, pattern: string): boolean =>
  new RegExp(`^${pattern.split('*').map(escaped).join('.*')}$`).test(name);

const escaped = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');
