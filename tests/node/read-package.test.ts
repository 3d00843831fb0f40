import { appendFileSync, copyFileSync } from 'node:fs';
import { join } from 'node:path';
import { jest } from '@jest/globals';
import { withPackage } from '../../src/node/read-package.ts';
import { demoApk, scratchFolder } from '../support/paths.ts';

const scratch = scratchFolder();

test('a package that is written on while it is read is not judged by parts of two', async () => {
  const file = join(scratch, 'app.apk');
  copyFileSync(demoApk, file);
  const use = jest.fn();
  const reading = withPackage(file, use, { whileVerifying: async () => appendFileSync(file, 'more') });
  await expect(reading).rejects.toMatchObject({ problem: { code: 'file.changed' } });
  expect(use).not.toHaveBeenCalled();
});
