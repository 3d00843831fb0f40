/**
 * Native code must be there for 64 bits (Android developers, *Support 64-bit architectures*), and its segments must be
 * aligned to 16 KB, in the archive too where it lies there uncompressed (*Support 16 KB page sizes*).
 */

import { z } from 'zod';
import type { NativeLibraryFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastName } from '../words.ts';

const PAGE_BYTES = 16_384;
const WIDE_OF = new Map([
  ['armeabi-v7a', 'arm64-v8a'],
  ['armeabi', 'arm64-v8a'],
  ['x86', 'x86_64'],
]);

const dataSchema = z.strictObject({
  abi: z.string(),
  alignBytes: z.number(),
  file: z.string(),
  flaw: z.string(),
  wide: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const nativeLibrary = defineCheck({
  id: 'native-library',
  area: 'quality',
  priority: 'cannot-use',
  standard: 'Android developers, Support 64-bit architectures, and Support 16 KB page sizes',
  basis: 'measured',
  needs: 'package',
  reads: ['native-library'],
  data: dataSchema,
  words: ({ abi, alignBytes, file, flaw, wide }) =>
    flaw === 'no-64-bit'
      ? {
          what: `${lastName(file.replace(/\.so$/, ''))} is there for 32 bits only`,
          measured: `${abi} without ${wide}`,
          required: `the same library for ${wide}`,
          why: 'Devices without 32-bit code cannot install the app, and stores refuse it.',
          remedy: `Build it for ${wide} too.`,
        }
      : {
          what: `${file.replace(/^.*\//, '')} (${abi}) cannot be loaded on devices with pages of 16 KB`,
          measured: `${flaw === 'segments' ? 'segments' : 'its place in the package'} aligned to ${alignBytes} bytes`,
          required: 'aligned to 16384 bytes',
          why: 'The system maps whole pages of the file: what does not begin on one ends the app when it starts.',
          remedy:
            flaw === 'segments'
              ? 'Link with -Wl,-z,max-page-size=16384, or with a current native development kit.'
              : 'Align the package with pages of 16 KB, or let the library be compressed.',
        },

  *run(facts): Iterable<Assertion<Data>> {
    const libraries = facts.of('native-library');
    const abis = new Set(libraries.map(({ abi }) => abi));
    for (const library of libraries) {
      const wide = WIDE_OF.get(library.abi);
      if (wide === undefined) yield judgeAlignment(library);
      else if (!abis.has(wide)) yield flawOf(library, 'no-64-bit', wide, 0);
      else yield { outcome: 'passed' };
    }
  },

  doc: {
    looksAt: 'Native libraries: processors, alignment of segments and of their place in the package',
    against: '64 bits, 16 KB pages',
    matters:
      'Devices without 32-bit code cannot install the app; devices with pages of 16 KB end it at its start.',
    measured:
      'The processors of each library, the alignment of its segments (ELF program headers), and of its place in the package.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'CMakeLists.txt',
        language: 'text',
        code: 'target_link_options(core PRIVATE "-Wl,-z,max-page-size=16384")',
      },
    ],
  },
});

function judgeAlignment(library: NativeLibraryFact): Assertion<Data> {
  const { offsetAlignBytes = PAGE_BYTES, segmentAlignBytes } = library;
  if (segmentAlignBytes < PAGE_BYTES) return flawOf(library, 'segments', '', segmentAlignBytes);
  if (offsetAlignBytes < PAGE_BYTES) return flawOf(library, 'offset', '', offsetAlignBytes);
  return { outcome: 'passed' };
}

const flawOf = (
  { abi, evidence, file }: NativeLibraryFact,
  flaw: string,
  wide: string,
  alignBytes: number,
): Assertion<Data> => ({
  outcome: 'failed',
  draft: {
    // the same library whether it is read from the bundle or from the APK that is made of it
    identity: { subject: file.replace(/^base\//, '') },
    basis: 'measured',
    severity: flaw === 'no-64-bit' ? 2 : 1,
    digest: `${flaw} ${alignBytes}`,
    occurrence: { evidence, shown: file, data: { abi, alignBytes, file, flaw, wide } },
  },
});
