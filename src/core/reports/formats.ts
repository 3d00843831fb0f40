/** Every report that is text, by the name that it is asked for. */
import { csvReport } from './csv.ts';
import { earlReport } from './earl.ts';
import { junitReport } from './junit.ts';
import { markdownReport } from './markdown.ts';
import type { TextReport } from './report-format.ts';
import { sarifReport } from './sarif.ts';

export const textReports = {
  json: {
    file: 'judgement.json',
    about: 'all of it, for machines',
    write: (judgement) => `${JSON.stringify(judgement, null, 2)}\n`,
  },
  junit: {
    file: 'junit.xml',
    about: 'JUnit XML: an area is a suite, an item a case',
    write: junitReport,
  },
  sarif: {
    file: 'fenlok.sarif',
    about: 'SARIF 2.1.0: findings, with places in the sources by --source',
    write: sarifReport,
  },
  earl: { file: 'earl.jsonld', about: 'EARL 1.0 as JSON-LD: items and findings', write: earlReport },
  markdown: {
    file: 'summary.md',
    about: 'Markdown for a pull request or the summary of a job',
    write: markdownReport,
  },
  csv: { file: 'findings.csv', about: 'CSV: one row a finding', write: csvReport },
} satisfies Record<string, TextReport>;
export type TextReportName = keyof typeof textReports;
