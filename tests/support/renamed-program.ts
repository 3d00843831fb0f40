/** A Java program that throws in many places, renamed and inlined by ProGuard: what it prints, with its mapping file. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { tools } from './paths.ts';

const run = (command: string, args: string[], cwd: string): void =>
  void execFileSync(command, args, { cwd, stdio: ['ignore', 'pipe', 'pipe'] });

/** Classes that call each other by chance, in short methods, many with one name; each path ends in an exception or a cause of one. */
export function javaProgram(random: () => number, classCount = 8): string {
  const pick = (count: number) => Math.floor(random() * count);
  const bodies = Array.from({ length: classCount }, (_, i) => {
    const methods = Array.from({ length: 3 + pick(4) }, (_, j) => {
      const parameters = ['int n', 'int n, String s', 'long n', 'int n, int m'][j % 4]!;
      const next = i + 1 + pick(classCount - i);
      const call =
        next >= classCount
          ? [`Integer.parseInt("n" + n);`, `throw new IllegalStateException("n " + n);`][pick(2)]!
          : `C${next}.call${pick(3)}((int) n - 1);`;
      const wrap = random() < 0.25;
      return [
        `  static void go${j % 3}(${parameters}) {`,
        ...Array.from({ length: pick(3) }, () => `    count += n;`),
        wrap
          ? `    try { ${call} } catch (RuntimeException e) {\n      throw new RuntimeException("in C${i}", e);\n    }`
          : `    ${call}`,
        '  }',
      ].join('\n');
    });
    const calls = [0, 1, 2].map((j) => {
      const args = ['n', 'n, "s"', '(long) n', 'n, 2'];
      const to = Math.min(j + 3 * pick(2), methods.length - 1);
      return `  static void call${j}(int n) {\n    if (n < -90) return;\n    go${to % 3}(${args[to % 4]});\n  }`;
    });
    return `class C${i} {\n  static long count;\n${[...methods, ...calls].join('\n')}\n}`;
  });
  const starts = [0, 1, 2].map(
    (j) => `    try { C0.call${j}(a.length); } catch (Throwable t) { t.printStackTrace(); }`,
  );
  return `package kelp.shop;\npublic class Main {\n  public static void main(String[] a) {\n${starts.join('\n')}\n  }\n}\n${bodies.join('\n')}\n`;
}

/** @returns what it printed, and where its mapping file is */
export function runRenamed(folder: string, source: string): { printed: string; mapping: string } {
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'Main.java'), source);
  run('javac', ['--release', '8', '-g', '-nowarn', '-d', 'out', 'Main.java'], folder);
  run('jar', ['cf', 'in.jar', '-C', 'out', '.'], folder);
  writeFileSync(
    join(folder, 'rules.pro'),
    [
      '-injars in.jar',
      '-outjars small.jar',
      `-libraryjars ${platformJar(join(folder, '..'))}`,
      '-keep class kelp.shop.Main { public static void main(java.lang.String[]); }',
      '-printmapping mapping.txt',
      '-keepattributes SourceFile,LineNumberTable',
      '-renamesourcefileattribute SourceFile',
      '-overloadaggressively',
      "-repackageclasses ''",
      '-allowaccessmodification',
      '-ignorewarnings',
    ].join('\n'),
  );
  run('java', ['-jar', tools.proguard, '@rules.pro'], folder);
  execFileSync('bash', ['-c', 'java -cp small.jar kelp.shop.Main 2> stack.txt'], { cwd: folder });
  return { printed: readFileSync(join(folder, 'stack.txt'), 'utf8'), mapping: join(folder, 'mapping.txt') };
}

export const retraced = (folder: string, stack = 'stack.txt'): string =>
  execFileSync('java', ['-jar', tools.retrace, 'mapping.txt', stack], { cwd: folder, encoding: 'utf8' });

/** The platform's classes as the compiler knows those of Java 8, in a form that ProGuard reads. */
function platformJar(folder: string): string {
  const jar = join(folder, 'platform.jar');
  if (existsSync(jar)) return jar;
  const home = execFileSync('bash', ['-c', 'dirname "$(dirname "$(readlink -f "$(command -v javac)")")"'], {
    encoding: 'utf8',
  }).trim();
  const from = join(folder, 'signatures');
  const to = join(folder, 'platform');
  mkdirSync(from, { recursive: true });
  run('jar', ['xf', join(home, 'lib/ct.sym')], from);
  for (const release of readdirSync(from).filter((name) => name.includes('8')))
    for (const room of ['java/lang', 'java/io', 'java/util']) {
      const place = join(from, release, 'java.base', room);
      if (!existsSync(place)) continue;
      mkdirSync(join(to, room), { recursive: true });
      for (const name of readdirSync(place).filter((one) => one.endsWith('.sig'))) {
        const bytes = readFileSync(join(place, name));
        // it reads class files of its own time alone
        bytes.writeUInt16BE(52, 6);
        writeFileSync(join(to, room, name.replace('.sig', '.class')), bytes);
      }
    }
  run('jar', ['cf', jar, '-C', to, '.'], folder);
  return jar;
}
