// The command in few files, dist/bin/, with the packages that it uses: loading them one by one took most of each call's time.
// Parts that only some calls need are files of their own.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const folder = join(root, 'dist', 'bin');
const stampFile = join(folder, '.made-of');

// with code or data that must stay a file: machine code, fonts' tables, what threads begin with
const LEFT_OUT = ['sharp', '@resvg/resvg-js', 'fontkit', 'yoga-layout', 'tinypool', 'sixel'];

/** Bundles dist/cli/bin.js, unless dist/bin was made of just that. */
export async function bundleCommand() {
  const stamp = createHash('sha256');
  for (const file of ['dist/.tsbuildinfo', 'package-lock.json', 'scripts/bundle.mjs'])
    stamp.update(readFileSync(join(root, file)));
  const madeOf = stamp.digest('hex');
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === madeOf) return;
  const { rolldown } = await import('rolldown');
  rmSync(folder, { recursive: true, force: true });
  const bundle = await rolldown({
    input: {
      fenlok: join(root, 'dist/cli/bin.js'),
      // what threads run
      'capture-thread': join(root, 'dist/node/capture-thread.js'),
    },
    platform: 'node',
    // what is written for modules, where a package has both
    resolve: { mainFields: ['module', 'main'] },
    external: (id) => LEFT_OUT.some((name) => id === name || id.startsWith(`${name}/`)),
  });
  const { output } = await bundle.write({ dir: folder, format: 'esm', chunkFileNames: '[name].js' });
  await bundle.close();
  writeFileSync(join(folder, 'licences.txt'), licencesOf(output));
  writeFileSync(stampFile, madeOf);
}

/** The texts of the licences of all packages that went into the bundle. */
function licencesOf(output) {
  const packages = new Set();
  for (const { moduleIds = [] } of output)
    for (const id of moduleIds) {
      const found = /^.*node_modules\/(@[^/]+\/)?[^/]+/.exec(id.replaceAll('\\', '/'));
      if (found) packages.add(found[0].replace(/^\0/, ''));
    }
  return [...packages].sort().map(licenceOf).join('\n');
}

function licenceOf(path) {
  const { license, name, version } = JSON.parse(readFileSync(join(path, 'package.json'), 'utf8'));
  const file = readdirSync(path).find((one) => /^licen[cs]e/i.test(one));
  return `${name} ${version} (${license})\n\n${file ? readFileSync(join(path, file), 'utf8') : ''}\n`;
}
