/** Intent filters as they are written (Android developers, *<intent-filter>*, *<data>*). */
import type { IntentFilter, LinkAuthority, LinkElement } from '../../model/app-package.ts';
import type { XmlElement } from './binary-xml.ts';
import { childrenOf, type Reading } from './manifest-reading.ts';

const PATTERN_KINDS = ['', 'Prefix', 'Suffix', 'Pattern', 'AdvancedPattern'] as const;
const kindsOf = (part: string): string[] => PATTERN_KINDS.map((kind) => part + kind);
export function readFilter(filter: XmlElement, of: Reading): IntentFilter {
  const data = childrenOf(filter, 'data');
  const names = (element: string) => childrenOf(filter, element).map((child) => of.text(child, 'name'));
  const all = (attribute: string) => [
    ...new Set(data.map((element) => of.text(element, attribute)).filter(Boolean)),
  ];
  return {
    actions: names('action'),
    categories: names('category'),
    schemes: all('scheme'),
    authorities: readAuthorities(data, of),
    paths: patternsOf(data, 'path', of),
    specificParts: patternsOf(data, 'ssp', of),
    relativeGroups: childrenOf(filter, 'uri-relative-filter-group').map((group) => ({
      allow: of.flag(group, 'allow') ?? true,
      parts: ['path', 'query', 'fragment'].flatMap((part) => patternsOf(childrenOf(group, 'data'), part, of)),
    })),
    mimeTypes: all('mimeType'),
    autoVerify: of.flag(filter, 'autoVerify') ?? false,
    ...elementsOf(data, of),
  };
}

/** Only where elements name several parts at once, so that what combines is more than what was written. */
function elementsOf(data: readonly XmlElement[], of: Reading): Pick<IntentFilter, 'elements'> {
  const elements = data.map((element): LinkElement => {
    const [scheme, host] = [of.text(element, 'scheme'), of.text(element, 'host')];
    const paths = patternsOf([element], 'path', of);
    return { ...(scheme && { scheme }), ...(host && { host }), ...(paths.length > 0 && { paths }) };
  });
  const joins = elements.some((element) => Object.keys(element).length > 1);
  return joins && elements.length > 1 ? { elements } : {};
}

/** A port counts only in the element that names its host. */
function readAuthorities(data: readonly XmlElement[], of: Reading): LinkAuthority[] {
  const found = new Map<string, LinkAuthority>();
  for (const element of data) {
    const host = of.text(element, 'host');
    const port = of.number(element, 'port');
    if (host) found.set(`${host} ${port}`, { host, ...(port !== undefined && { port }) });
  }
  return [...found.values()];
}

const patternsOf = (data: readonly XmlElement[], part: string, of: Reading): string[] => [
  ...new Set(
    kindsOf(part).flatMap((attribute) =>
      data.flatMap((element) => {
        const value = of.text(element, attribute);
        return value === '' ? [] : [`${attribute}=${value}`];
      }),
    ),
  ),
];
