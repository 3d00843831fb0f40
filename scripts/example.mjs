// `npm run example NAME`: builds an example app and serves it on loopback.
//   bench [-- --dossier FOLDER …]  over the captures of dossiers; without one, over those of the demo, which is run where it
//                                  has not been yet
//   rehearsal [-- --intent FILE --store FILE --ads FILE --package FILE]  with a team's own files; without them, the demo's
import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { build as compile, installNpmPackages, root } from './setup.mjs';

const EXAMPLES = {
  bench: { serve: serveBench, options: ['dossier'] },
  rehearsal: { serve: serveRehearsal, options: ['intent', 'store', 'ads', 'package'] },
};
const KELPLINE = {
  intent: join(root, 'demo/kelpline/fenlok.yaml'),
  store: join(root, 'demo/kelpline/store.yaml'),
  ads: join(root, 'demo/kelpline/ad-exchange.yaml'),
  package: join(root, 'demo/kelpline/kelpline.apk'),
};

const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: {
    dossier: { type: 'string', multiple: true },
    intent: { type: 'string' },
    store: { type: 'string' },
    ads: { type: 'string' },
    package: { type: 'string' },
    port: { type: 'string', default: '4180' },
  },
});
const name = positionals[0];
const example = Object.hasOwn(EXAMPLES, name ?? '') ? EXAMPLES[name] : undefined;
if (!example) end(2, `which example? One of: ${Object.keys(EXAMPLES).join(', ')}`);
const strange = Object.keys(values).find((option) => ![...example.options, 'port'].includes(option));
if (strange) end(2, `${name} has no --${strange}; it has --${example.options.join(', --')} and --port`);

const environment = await example.serve();
const token = randomBytes(16).toString('hex');
Object.assign(process.env, environment, { NODE_ENV: 'production', FENLOK_TOKEN: token });
const configFile = join(root, 'examples', name, 'vite.config.ts');
const { build, preview } = await import('vite');
await build({ configFile, logLevel: 'error' });
const server = await preview({ configFile, preview: { port: Number(values.port), strictPort: false } });
const { port } = server.httpServer.address();
console.log(`http://127.0.0.1:${port}/?token=${token}`);
console.error('Ctrl-C ends it');
for (const signal of ['SIGINT', 'SIGTERM'])
  process.once(signal, () => {
    server.httpServer.closeAllConnections();
    server.close().then(() => process.exit(0));
  });

async function serveBench() {
  const dossiers = values.dossier?.map((folder) => resolve(folder)) ?? [];
  for (const folder of dossiers)
    if (!existsSync(join(folder, 'captures')))
      end(3, `${folder}: no dossier with captures; make one with  fenlok add  or  fenlok demo`);
  installNpmPackages();
  compile();
  if (dossiers.length === 0) dossiers.push(...(await demoDossiers()));
  return { FENLOK_DOSSIERS: dossiers.join('\n') };
}

/** Those of `npm run demo`. */
async function demoDossiers() {
  const demo = join(root, 'fenlok-demo');
  const folders = ['dossier', 'dossier-ios'].map((folder) => join(demo, folder));
  if (folders.every((folder) => existsSync(join(folder, 'judgement.json')))) return folders;
  const { spawnSync } = await import('node:child_process');
  const run = spawnSync(process.execPath, [join(root, 'dist/bin/fenlok.js'), 'demo', '--out', demo], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (run.status !== 0) process.exit(run.status ?? 1);
  return folders;
}

/** The files of a team, or the demo's, read and checked. */
async function serveRehearsal() {
  const isOwn = values.intent !== undefined || values.store !== undefined;
  if (isOwn && !(values.intent && values.store))
    end(2, 'a rehearsal of your own needs both --intent FILE and --store FILE');
  const files = isOwn ? values : { ...KELPLINE, ...values };
  installNpmPackages();
  compile();
  const load = (file) => import(join(root, 'dist', file));
  const { readIntent } = await load('node/project.js');
  const { readYaml } = await load('node/read-yaml.js');
  const { exchangeSchema, storeCatalogueSchema } = await load('standins/models.js');
  const { UnreadableError } = await load('core/model/problem.js');
  try {
    const project = {
      intent: await readIntent(resolve(files.intent)),
      catalogue: (await readYaml(resolve(files.store), storeCatalogueSchema)).value,
      exchange: files.ads && (await readYaml(resolve(files.ads), exchangeSchema)).value,
      packageFacts: files.package ? await packageFacts(resolve(files.package), load) : [],
    };
    return { FENLOK_PROJECT: JSON.stringify(project) };
  } catch (error) {
    if (error instanceof UnreadableError) end(3, error.message);
    throw error;
  }
}

/** What ad networks look for in a package. */
async function packageFacts(file, load) {
  const { factsOfPackageFile } = await load('node/observe.js');
  return (await factsOfPackageFile(file)).filter(({ kind }) => kind === 'ad-surroundings');
}

function end(code, why) {
  console.error(why);
  process.exit(code);
}
