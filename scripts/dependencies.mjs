// `node scripts/dependencies.mjs`: what the lock file holds, against what is allowed. With --signatures, npm also verifies that
// the registry signed each package, where that can be reached.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './setup.mjs';

// of what is shipped: these let anybody use, change and hand on
const ALLOWED = [
  '0BSD',
  'Apache-2.0',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'BlueOak-1.0.0',
  'CC0-1.0',
  'ISC',
  'MIT',
  'OFL-1.1',
  'Unlicense',
];
// libraries of their own, unchanged, which anybody may replace (LGPL 3, section 4; MPL 2, section 3.3)
const LIBRARIES = { '@img/sharp': 'LGPL-3.0-or-later', '@resvg/resvg-js': 'MPL-2.0' };

const isLibrary = (name, licence) =>
  Object.entries(LIBRARIES).some(([library, of]) => name.startsWith(library) && licence === of);

const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
const wrong = [];
const counts = new Map();
for (const [
  path,
  { dev, hasInstallScript, integrity, license = '', link, optional, version },
] of Object.entries(packages)) {
  if (path === '' || link) continue;
  const name = path.replace(/^.*node_modules\//, '');
  // npm knows no digest of what is made for other machines alone
  if (!integrity && !optional) wrong.push(`${name} ${version}: no digest in the lock file`);
  if (dev || (optional && license === '')) continue;
  counts.set(license, (counts.get(license) ?? 0) + 1);
  const isAllowed = license
    .replace(/[()]/g, '')
    .split(' AND ')
    .every((part) => part.split(' OR ').some((one) => ALLOWED.includes(one)) || isLibrary(name, part));
  if (!isAllowed) wrong.push(`${name} ${version}: its licence is ${license || 'not named'}`);
  if (hasInstallScript) wrong.push(`${name} ${version}: runs a script when it is installed`);
}
for (const [license, count] of [...counts].sort()) console.log(`${String(count).padStart(4)}  ${license}`);
for (const line of wrong) console.error(line);
if (wrong.length > 0) process.exit(1);
if (process.argv.includes('--signatures'))
  process.exit(spawnSync('npm', ['audit', 'signatures'], { stdio: 'inherit', cwd: root }).status ?? 1);
