import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { tools } from './paths.ts';

/**
 * An app of a few source files, compiled and linked by the platform's own packer.
 *
 * @param files by their paths: `AndroidManifest.xml`, `res/layout/a.xml`
 * @param more options of the linker
 * @returns the package
 */
export function packApp(folder: string, files: Record<string, string>, more: string[] = []): string {
  for (const [file, content] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, file)), { recursive: true });
    writeFileSync(join(folder, file), content);
  }
  const run = (...args: string[]) => execFileSync(tools.aapt2, args, { cwd: folder, stdio: 'pipe' });
  const hasResources = Object.keys(files).some((file) => file.startsWith('res/'));
  if (hasResources) run('compile', '--dir', 'res', '-o', 'res.zip');
  const resources = hasResources ? ['res.zip'] : [];
  const link = ['link', '--warn-manifest-validation', '-I', tools.framework, '-o', 'app.apk'];
  run(...link, ...more, '--manifest', 'AndroidManifest.xml', ...resources);
  return join(folder, 'app.apk');
}
