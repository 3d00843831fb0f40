// Holds the rooms to their order: imports go one way, the core knows no Node, nothing runs in circles, types included, and
// nothing is exported that nobody else names.
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve, sep } from 'node:path';
import { fileURLToPath } from 'node:url';

const src = join(dirname(dirname(fileURLToPath(import.meta.url))), 'src');

const CORE = ['model', 'platform', 'formats', 'areas', 'checklist', 'drafts', 'patches', 'reports'].map(
  (room) => `core/${room}`,
);

// A room may import from the rooms listed, and from itself.
const MAY_IMPORT = {
  'core/model': [],
  'core/platform': ['core/model'],
  'core/formats': ['core/model', 'core/platform'],
  'core/areas': ['core/model', 'core/platform'],
  'core/checklist': ['core/model', 'core/platform', 'core/areas'],
  'core/drafts': ['core/model', 'core/platform', 'core/areas', 'core/checklist'],
  'core/patches': ['core/model', 'core/platform', 'core/formats', 'core/areas', 'core/checklist'],
  'core/reports': ['core/model', 'core/platform', 'core/formats', 'core/areas', 'core/checklist'],
  core: CORE,
  standins: ['core/model', 'core/platform', 'core/formats'],
  node: ['core', ...CORE],
  device: ['core', ...CORE, 'node'],
  cli: ['core', ...CORE, 'node', 'device', 'standins'],
};

const files = readdirSync(src, { recursive: true })
  .filter((file) => file.endsWith('.ts'))
  .map((file) => join(src, file));
const roomOf = (file) => {
  const [first, second] = relative(src, file).split(sep);
  return first === 'core' && `core/${second}` in MAY_IMPORT ? `core/${second}` : first;
};
const importsOf = (file) =>
  [
    ...readFileSync(file, 'utf8').matchAll(
      /^(?:import|export)\s(?:(type)\s)?[^'";]*?from\s+'([^']+)'|^import\s+'([^']+)'|\bimport\('([^']+)'\)/gm,
    ),
  ].map((match) => ({ typeOnly: match[1] === 'type', target: match[2] ?? match[3] ?? match[4] }));

const problems = [];
const graph = new Map();
const needsNode = new Set();
for (const file of files) {
  const room = roomOf(file);
  const name = relative(src, file);
  graph.set(file, []);
  for (const { target, typeOnly } of importsOf(file)) {
    if (!target.startsWith('.')) {
      if (target.startsWith('node:') && !typeOnly) needsNode.add(file);
      if (room.startsWith('core') && target.startsWith('node:'))
        problems.push(`${name}: the core must not import ${target}`);
      continue;
    }
    const to = resolve(dirname(file), target);
    const toRoom = roomOf(to);
    if (to.endsWith(`${sep}index.ts`))
      problems.push(`${name}: imports an index (${target}); import the leaf file`);
    if (toRoom !== room && !(MAY_IMPORT[room] ?? []).includes(toRoom))
      problems.push(`${name}: ${room} must not import ${toRoom} (${target})`);
    graph.get(file).push(to);
  }
}

const state = new Map();
const walk = (file, path) => {
  if (state.get(file) === 'done') return;
  if (state.get(file) === 'open') {
    problems.push(
      `circle: ${[...path.slice(path.indexOf(file)), file].map((f) => relative(src, f)).join(' → ')}`,
    );
    return;
  }
  state.set(file, 'open');
  for (const next of graph.get(file) ?? []) walk(next, [...path, file]);
  state.set(file, 'done');
};
for (const file of files) walk(file, []);

// What runs in a page must find all that it needs there.
const inPage = new Set([join(src, 'standins/models.ts')]);
for (const file of inPage) {
  if (needsNode.has(file))
    problems.push(`${relative(src, file)}: standins/models.ts reaches it, and it needs Node`);
  for (const next of graph.get(file) ?? []) inPage.add(next);
}

// Examples stand outside: they import the core by its name, their own files and the parts that they share; the rehearsal
// also the stand-ins' pure models.
const MAY_NAME = { rehearsal: ['fenlok/standins/models'] };
const examples = join(dirname(src), 'examples');
for (const file of readdirSync(examples, { recursive: true }).filter((name) => /\.tsx?$/.test(name))) {
  const [example] = file.split(sep);
  for (const { target } of importsOf(join(examples, file))) {
    const to = resolve(examples, dirname(file), target);
    const isOwn = [example, 'parts'].some((folder) => to.startsWith(join(examples, folder) + sep));
    const isWrong = target.startsWith('.')
      ? !isOwn
      : target.startsWith('fenlok/') && !MAY_NAME[example]?.includes(target);
    if (isWrong) problems.push(`examples/${file}: an example must not import ${target}`);
  }
}

// The commands of the phone's shell are gathered by the names that they are exported by.
const GATHERED = join(src, 'standins/phone/shell/commands');
// Named by nobody, and needed in the declarations of what is inferred.
const INFERRED = new Set([
  'ListingEvidence',
  'LogEvidence',
  'PayloadEvidence',
  'ReviewsEvidence',
  'SaleEvidence',
  'SiteEvidence',
  'SymbolsEvidence',
]);
const readers = ['src', 'tests', 'examples', 'scripts', 'demo'].flatMap((folder) =>
  readdirSync(join(dirname(src), folder), { recursive: true })
    .filter((name) => /\.(tsx?|mjs)$/.test(name) && !name.includes('node_modules'))
    .map((name) => join(dirname(src), folder, name)),
);
const namedBy = new Map();
for (const file of readers)
  for (const [word] of readFileSync(file, 'utf8').matchAll(/[A-Za-z_$][\w$]*/g))
    namedBy.set(word, (namedBy.get(word) ?? new Set()).add(file));
for (const file of files.filter((name) => !name.startsWith(GATHERED)))
  for (const [, name] of readFileSync(file, 'utf8').matchAll(
    /^export (?:async )?(?:function\*?|const|class|type|interface) (\w+)/gm,
  ))
    if (namedBy.get(name).size === 1 && !INFERRED.has(name))
      problems.push(`${relative(src, file)}: nobody else uses ${name}`);

for (const problem of problems) console.error(problem);
console.error(
  problems.length > 0 ? `${problems.length} to put right` : `imports: ${files.length} files, all one way`,
);
process.exit(problems.length > 0 ? 1 : 0);
