// `npm run example bench [-- --dossier FOLDER …]`: builds an example app and serves it on loopback, over the captures of
// dossiers; without one, over those of the demo, which is run where it has not been yet.
import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { build as compile, installNpmPackages, root } from './setup.mjs';

const EXAMPLES = ['bench'];

const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: { dossier: { type: 'string', multiple: true }, port: { type: 'string', default: '4180' } },
});
const name = positionals[0];
if (!EXAMPLES.includes(name)) {
  console.error(`which example? One of: ${EXAMPLES.join(', ')}`);
  process.exit(2);
}
const dossiers = values.dossier?.map((folder) => resolve(folder)) ?? [];
for (const folder of dossiers)
  if (!existsSync(join(folder, 'captures'))) {
    console.error(`${folder}: no dossier with captures; make one with  fenlok add  or  fenlok demo`);
    process.exit(3);
  }

installNpmPackages();
compile();
if (dossiers.length === 0) dossiers.push(...(await demoDossiers()));

const token = randomBytes(16).toString('hex');
process.env.NODE_ENV = 'production';
process.env.FENLOK_DOSSIERS = dossiers.join('\n');
process.env.FENLOK_TOKEN = token;
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

/** Those of `npm run demo`. */
async function demoDossiers() {
  const demo = join(root, 'fenlok-demo');
  const folders = ['dossier', 'dossier-ios'].map((folder) => join(demo, folder));
  if (folders.every((folder) => existsSync(join(folder, 'judgement.json')))) return folders;
  const { spawnSync } = await import('node:child_process');
  const run = spawnSync(process.execPath, [join(root, 'dist/cli/bin.js'), 'demo', '--out', demo], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (run.status !== 0) process.exit(run.status ?? 1);
  return folders;
}
