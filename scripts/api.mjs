// Writes the pages of the public API into docs/api (not kept in the repository). TypeDoc takes TypeScript 6 and not the project's 7,
// so both live in a folder of their own.
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './setup.mjs';

const folder = join(root, 'node_modules/.cache/fenlok-typedoc');
mkdirSync(folder, { recursive: true });
writeFileSync(
  join(folder, 'package.json'),
  JSON.stringify({ private: true, dependencies: { typedoc: '0.28.20', typescript: '6.0.3' } }),
);
const inherit = { cwd: folder, stdio: ['ignore', 2, 2] };
execFileSync('npm', ['install', '--no-audit', '--no-fund', '--loglevel=error'], inherit);
const entries = ['core', 'node', 'device', 'standins'].map((room) => `src/${room}/index.ts`);
execFileSync(
  process.execPath,
  [
    join(folder, 'node_modules/typedoc/bin/typedoc'),
    ...['--entryPoints', ...entries, 'src/standins/models.ts'],
    ...['--tsconfig', 'tsconfig.json', '--out', 'docs/api', '--name', 'Fenlok'],
    ...['--readme', 'none', '--skipErrorChecking', '--logLevel', 'Error'],
  ],
  { cwd: root, stdio: ['ignore', 2, 2] },
);
console.error('docs/api/index.html');
