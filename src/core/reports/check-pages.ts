/** The pages of documentation of checks, `docs/checks/ID.md`, and their index, in Markdown. */
import type { Check, Fix } from '../areas/check.ts';
import { areas } from '../model/checklist.ts';
import { type Limits, limitsSchema } from '../model/limits.ts';

const BASIS: Record<Check['basis'], string> = {
  measured: 'Its findings are measured: they fail their items.',
  estimated: 'Its findings are always estimated: a person rules on each.',
  either:
    'Its findings are measured where the evidence settles them, and else estimated: a person rules on those.',
};

const PRIORITY: Record<Check['priority'], string> = {
  'cannot-ship': 'the build cannot be shipped, or puts the account of the team at risk',
  'app-ends': 'the app ends, or money is taken twice or given back',
  'cannot-use': 'people cannot do something at all',
  wrong: 'something is lost, wrong, or open to others',
  harder: 'it is hard to use, or untidy',
};

/** One check: what it looks at, why, how, where it errs, and how to correct what it finds. */
export function checkPage(check: Check): string {
  const { area, basis, doc, id, limits, priority, standard } = check;
  const standardLimits: Limits = limitsSchema.parse({});
  const own = limits.map(
    (name) => `\`limits.${name}\` (${standardLimits[name]} unless \`fenlok.yaml\` says otherwise)`,
  );
  return `# ${id}

${sentence(doc.matters)}

| | |
|---|---|
| area | ${area} |
| looks at | ${doc.looksAt} |
| against | ${doc.against} |
| standard | ${escaped(standard)} |
| what it costs | ${PRIORITY[priority]} |
${own.length > 0 ? `| limits | ${own.join(', ')} |\n` : ''}
## How it is measured

${sentence(doc.measured)} ${BASIS[basis]}

## Where it errs

${sentence(doc.errs)}

## How to correct it

${doc.fixes.map(fixBlock).join('\n')}`;
}

const fixBlock = ({ code, language, where }: Fix): string =>
  `${where}:\n\n\`\`\`${language}\n${code.trimEnd()}\n\`\`\`\n`;

const sentence = (text: string): string => escaped(/[.!?]$/.test(text) ? text : `${text}.`);
// An element of a manifest would be taken for markup.
const escaped = (text: string): string => text.replace(/<(?=[\w/-])/g, '\\<');

/** All of them, by area. */
export function checkIndex(checks: readonly Check[]): string {
  const tables = areas.flatMap((area) => {
    const own = checks.filter((check) => check.area === area);
    if (own.length === 0) return [];
    const rows = own.map(({ doc, id }) => `| [\`${id}\`](${id}.md) | ${doc.looksAt} | ${doc.against} |`);
    return [`## ${area}\n\n| check | looks at | against |\n|---|---|---|\n${rows.join('\n')}\n`];
  });
  return `# Checks

What each looks at, and what it holds it against. *Estimated* findings wait for a person's ruling. The pages are written from
the checks themselves: \`npm run generate\`.

${tables.join('\n')}`;
}
