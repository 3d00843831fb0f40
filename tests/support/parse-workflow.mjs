// `node parse-workflow.mjs FILE`: what the parser of GitHub's workflows says of a file, as JSON.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { rolldown } from 'rolldown';

const folder = mkdtempSync(join(tmpdir(), 'fenlok-workflow-'));
try {
  const entry = join(folder, 'entry.mjs');
  const names = 'NoOperationTraceWriter, convertWorkflowTemplate, parseWorkflow';
  writeFileSync(entry, `export { ${names} } from '@actions/workflow-parser';`);
  const modules = fileURLToPath(new URL('../../node_modules', import.meta.url));
  // its tables are JSON, which Node.js loads only where that is said
  const bundle = await rolldown({ input: entry, platform: 'node', resolve: { modules: [modules] } });
  const file = join(folder, 'parser.mjs');
  await bundle.write({ file, format: 'esm', codeSplitting: false });
  const parser = await import(pathToFileURL(file).href);
  const content = readFileSync(process.argv[2], 'utf8');
  const { context, value } = parser.parseWorkflow(
    { name: 'check.yml', content },
    new parser.NoOperationTraceWriter(),
  );
  const template = await parser.convertWorkflowTemplate(context, value, undefined, {});
  console.log(
    JSON.stringify({
      errors: context.errors.getErrors().map(({ message }) => message),
      jobs: (template.jobs ?? []).map(({ steps }) => steps.length),
    }),
  );
} finally {
  rmSync(folder, { recursive: true, force: true });
}
