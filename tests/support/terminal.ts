/** The built command in a terminal of its own, as a person has it: keys go in, words come out. */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './paths.ts';

const SCRIPT = '/usr/bin/script';
export const testInTerminal = existsSync(SCRIPT) ? test : test.skip;

interface Terminal {
  press(keys: string): void;
  /** Until it says so; fails where the command ends before. */
  says(words: string): Promise<void>;
  said(): string;
  ended: Promise<number | null>;
}

export function openTerminal(args: readonly string[], cwd: string, env: NodeJS.ProcessEnv): Terminal {
  const line = [process.execPath, join(root, 'dist/bin/fenlok.js'), ...args].join(' ');
  const child = spawn(SCRIPT, ['-qfec', line, '/dev/null'], {
    cwd,
    env: { ...process.env, ...env, TERM: 'xterm' },
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  let said = '';
  const heard = new Set<() => void>();
  child.stdout.on('data', (text) => {
    said += text;
    for (const hear of heard) hear();
  });
  const ended = new Promise<number | null>((resolve) => child.once('close', resolve));
  return {
    press: (keys) => child.stdin.write(keys),
    says: async (words) => {
      const heardWords = new Promise<void>((resolve) => {
        const hear = () => said.includes(words) && resolve();
        heard.add(hear);
        hear();
      });
      await Promise.race([heardWords, ended]);
      expect(said).toContain(words);
    },
    said: () => said,
    ended,
  };
}
