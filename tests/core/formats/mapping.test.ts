/** Stacks with the names that people wrote: against ProGuard's own program, and by a table of R8's documented format. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { MappingIndexer } from '../../../src/core/formats/android/mapping/index-mapping.ts';
import { readMembers } from '../../../src/core/formats/android/mapping/read-members.ts';
import {
  type Mapping,
  retraceFrames,
  retraceThrown,
} from '../../../src/core/formats/android/mapping/retrace.ts';
import { readFrame, readThrown } from '../../../src/core/formats/android/stack-text.ts';
import type { StackFrame } from '../../../src/core/model/stack.ts';
import { seeded } from '../../support/contrast-sheet.ts';
import { describeWith, scratchFolder } from '../../support/paths.ts';
import { javaProgram, retraced, runRenamed } from '../../support/renamed-program.ts';

const indexOf = (bytes: Uint8Array, pieceBytes = 1000) => {
  const indexer = new MappingIndexer();
  for (let at = 0; at < bytes.length; at += pieceBytes) indexer.push(bytes.subarray(at, at + pieceBytes));
  return indexer.finish();
};

function mappingOf(text: string): Mapping {
  const bytes = new TextEncoder().encode(text);
  const { classes } = indexOf(bytes);
  return {
    members: (renamed) => {
      const place = classes.get(renamed);
      const own = place && new TextDecoder().decode(bytes.subarray(place.fromByte, place.toByte));
      return place && readMembers(place.original, own!);
    },
    renamed: (original) => [...classes].find(([, one]) => one.original === original)?.[0],
  };
}

const say = ({ className, line, method }: StackFrame) => `${className}.${method}:${line ?? ''}`;

describeWith('proguard', 'retrace')('held against the program of the shrinker itself', () => {
  const scratch = scratchFolder();
  const seeds = Array.from({ length: Number(process.env.MAPPING_PROGRAMS ?? 4) }, (_, i) => 20261130 + i);

  test.each(seeds)('every frame of a program that throws, seed %i', (seed) => {
    const folder = join(scratch, `${seed}`);
    const { mapping: file, printed } = runRenamed(folder, javaProgram(seeded(seed)));
    const mapping = mappingOf(readFileSync(file, 'utf8'));
    const ours = printed
      .split(/^(?=\S*Exception\b)(?!Caused)/m)
      .flatMap((stack) =>
        retraceThrown(readThrown(stack.split('\n')), mapping).flatMap(({ frames }) => frames.map(say)),
      );
    const theirs = retraced(folder)
      .split('\n')
      .flatMap((line) => readFrame(line) ?? [])
      .map(say);
    expect(theirs.length).toBeGreaterThanOrEqual(printed.split('\tat ').length - 1);
    expect(ours).toEqual(theirs);
  });

  test('a frame without its line: what it may be is what the other program lists', () => {
    const folder = join(scratch, `${seeds[0]}`);
    const text = readFileSync(join(folder, 'mapping.txt'), 'utf8');
    const mapping = mappingOf(text);
    const printed = readFileSync(join(folder, 'stack.txt'), 'utf8');
    for (const line of printed.split('\n').filter((one) => one.includes('\tat '))) {
      const frame = readFrame(line)!;
      const [whole] = retraceFrames([frame], '', mapping).slice(-1);
      const { line: _, ...blind } = frame;
      const [first, ...rest] = retraceFrames([blind], '', mapping);
      expect(rest).toEqual([]);
      expect([`${first!.className}.${first!.method}`, ...(first!.or ?? [])]).toContain(
        `${whole!.className}.${whole!.method}`,
      );
    }
  });
});

// each as R8's documentation of the format has it
const R8 = `# compiler: R8
# compiler_version: 8.5.35
# pg_map_id: 4c8f1f2
kelp.Cart -> a.a:
# {"id":"sourceFile","fileName":"Cart.kt"}
    int sum -> a
    1:3:void total(int):10:12 -> a
    4:4:void kelp.Store.read():30:30 -> a
    4:4:void load():20 -> a
    5:5:void save():40:40 -> a
    1:5:void save(int):50:54 -> b
    void plain() -> c
    void other(int) -> c
    1:1:void lambda$show$0():60:60 -> d
      # {"id":"com.android.tools.r8.synthesized"}
    1:1:void show():61 -> d
    1:1:void kelp.Checks.notNull(java.lang.Object):7:7 -> e
      # {"id":"com.android.tools.r8.rewriteFrame","conditions":["throws(Ljava/lang/NullPointerException;)"],"actions":["removeInnerFrames(1)"]}
    1:1:void pay():70 -> e
    27:27:void charge():0:0 -> f
      # {"id":"com.android.tools.r8.outlineCallsite","positions":{"1":3,"2":4},"outline":"La/x;a()V"}
    3:3:void kelp.Bank.ask():5:5 -> f
    3:3:void charge():81 -> f
    4:4:void charge():82:82 -> f
kelp.Store -> a.b:
# {"id":"sourceFile","fileName":"Store.kt"}
    1:1:void read():30:30 -> a
kelp.Cart$Outline -> a.x:
    1:2:void outline():0:0 -> a
      # {"id":"com.android.tools.r8.outline"}
`;

test.each<[what: string, frames: string[], exception: string, expected: string[]]>([
  ['lines of one method move together', ['a.a.a:2'], '', ['kelp.Cart.total:11']],
  ['what was inlined is two frames', ['a.a.a:4'], '', ['kelp.Store.read:30', 'kelp.Cart.load:20']],
  [
    'methods of one new name are told by their lines',
    ['a.a.a:5', 'a.a.b:2'],
    '',
    ['kelp.Cart.save:40', 'kelp.Cart.save:51'],
  ],
  ['several without lines', ['a.a.c:9'], '', ['kelp.Cart.plain:9 or kelp.Cart.other']],
  ['what the compiler wrote is left out', ['a.a.d:1'], '', ['kelp.Cart.show:61']],
  ['a check that threw is left out', ['a.a.e:1'], 'java.lang.NullPointerException', ['kelp.Cart.pay:70']],
  [
    'but not where it threw something else',
    ['a.a.e:1'],
    'java.lang.Error',
    ['kelp.Checks.notNull:7', 'kelp.Cart.pay:70'],
  ],
  [
    'shared code is told by where it was called',
    ['a.x.a:1', 'a.a.f:27'],
    '',
    ['kelp.Bank.ask:5', 'kelp.Cart.charge:81'],
  ],
  ['and by its other line', ['a.x.a:2', 'a.a.f:27'], '', ['kelp.Cart.charge:82']],
  ['a method that the file does not have', ['a.a.zz:1'], '', ['kelp.Cart.zz:1']],
  ['a class that it does not have', ['b.c.d:1'], '', ['b.c.d:1']],
])('R8: %s', (_, frames, exception, expected) => {
  const stack = frames.map((one) => {
    const [, className, method, line] = /^(.*)\.(\w+):(\d+)$/.exec(one)!;
    return { className: className!, method: method!, file: '', line: Number(line) };
  });
  const found = retraceFrames(stack, exception, mappingOf(R8));
  expect(found.map((one) => [say(one), ...(one.or ?? [])].join(' or '))).toEqual(expected);
});

test('files come from the class that a frame was written in', () => {
  const frames = retraceFrames([{ className: 'a.a', method: 'a', file: '', line: 4 }], '', mappingOf(R8));
  expect(frames.map(({ file }) => file)).toEqual(['Store.kt', 'Cart.kt']);
});

test('the same index in pieces of any size, and head and classes are found', () => {
  const bytes = new TextEncoder().encode(R8);
  const whole = indexOf(bytes, bytes.length);
  expect(whole.head).toEqual({ compiler: 'R8', compiler_version: '8.5.35', pg_map_id: '4c8f1f2' });
  expect([...whole.classes.keys()]).toEqual(['a.a', 'a.b', 'a.x']);
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 200 }), (pieceBytes) => {
      expect(indexOf(bytes, pieceBytes)).toEqual(whole);
    }),
  );
});

test('what names no class is no mapping', () => {
  expect(() => indexOf(new TextEncoder().encode('one -> two\nthree\n'))).toThrow('no class');
});
