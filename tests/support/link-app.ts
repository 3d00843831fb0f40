/** An app that is nothing but link filters, packed with the platform's own tools. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { demoFolder, tools } from './paths.ts';

/** Attributes that the platform package is too old to know. */
const YOUNG = ['pathSuffix', 'pathAdvancedPattern', 'query', 'fragment', 'fragmentPrefix', 'allow'];

/** @returns the path of a signed APK */
export function packLinkApp(folder: string, manifest: string): string {
  const run = (tool: string, ...args: string[]) => execFileSync(tool, args, { cwd: folder });
  mkdirSync(join(folder, 'platform/res/values'), { recursive: true });
  const attributes = YOUNG.map(
    (name, i) =>
      `<attr name="${name}" format="string" /><public type="attr" name="${name}" id="0x0101ff${(i + 16).toString(16)}" />`,
  );
  writeFileSync(
    join(folder, 'platform/res/values/attrs.xml'),
    `<resources>${attributes.join('')}</resources>`,
  );
  writeFileSync(
    join(folder, 'platform.xml'),
    '<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="android" />',
  );
  writeFileSync(join(folder, 'manifest.xml'), manifest);
  run(tools.aapt2, 'compile', '--dir', 'platform/res', '-o', 'platform.zip');
  run(tools.aapt2, 'link', '--manifest', 'platform.xml', '-o', 'platform.apk', 'platform.zip');
  run(
    tools.aapt2,
    'link',
    '-I',
    'platform.apk',
    '-I',
    tools.framework,
    '--warn-manifest-validation',
    '--manifest',
    'manifest.xml',
    '-o',
    'links.apk',
  );
  const key = ['--ks', join(demoFolder, 'throwaway.keystore'), '--ks-pass', 'pass:throwaway'];
  run(tools.apksigner, 'sign', ...key, '--out', 'signed.apk', 'links.apk');
  return join(folder, 'signed.apk');
}

export const readBytes = (file: string): Uint8Array => new Uint8Array(readFileSync(file));
