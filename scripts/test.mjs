// `npm test`: set up, build, then Jest as native ES modules. Arguments go to Jest.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build, installNativeTools, installNpmPackages, root } from './setup.mjs';

installNpmPackages();
installNativeTools();
await build();
const jest = join(root, 'node_modules', 'jest', 'bin', 'jest.js');
const run = spawnSync(
  process.execPath,
  ['--experimental-vm-modules', '--disable-warning=ExperimentalWarning', jest, ...process.argv.slice(2)],
  { stdio: 'inherit', cwd: root },
);
process.exit(run.status ?? 1);
