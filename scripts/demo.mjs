// `npm run demo`: set up, then run the whole job on the demo data through the built command.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build, installNpmPackages, root } from './setup.mjs';

installNpmPackages();
await build();
const run = spawnSync(
  process.execPath,
  [join(root, 'dist/bin/fenlok.js'), 'demo', ...process.argv.slice(2)],
  {
    stdio: 'inherit',
  },
);
process.exit(run.status ?? 1);
