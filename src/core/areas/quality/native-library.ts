/**
 * Native code must be there for 64 bits (Android developers, *Support 64-bit architectures*), and its segments must be
 * aligned to 16 KB, in the archive too where it lies there uncompressed (*Support 16 KB page sizes*).
 */
import type { NativeLibraryFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';

const PAGE_BYTES = 16_384;
const WIDE_OF = new Map([
  ['armeabi-v7a', 'arm64-v8a'],
  ['armeabi', 'arm64-v8a'],
  ['x86', 'x86_64'],
]);

export const nativeLibrary = {
  id: 'native-library',
  area: 'quality',
  needs: ['package', 'native-library'],
  *run(facts): Iterable<Assertion> {
    const libraries = facts.of('native-library');
    const abis = new Set(libraries.map(({ abi }) => abi));
    for (const library of libraries) {
      const wide = WIDE_OF.get(library.abi);
      if (wide === undefined) yield judgeAlignment(library);
      else if (!abis.has(wide)) yield depart(library, 'no-64-bit', wide, 0);
      else yield { outcome: 'passed' };
    }
  },
} satisfies Check;

function judgeAlignment(library: NativeLibraryFact): Assertion {
  const { offsetAlignBytes = PAGE_BYTES, segmentAlignBytes } = library;
  if (segmentAlignBytes < PAGE_BYTES) return depart(library, 'segments', '', segmentAlignBytes);
  if (offsetAlignBytes < PAGE_BYTES) return depart(library, 'offset', '', offsetAlignBytes);
  return { outcome: 'passed' };
}

const depart = (
  { abi, evidence, file }: NativeLibraryFact,
  flaw: string,
  wide: string,
  alignBytes: number,
): Assertion => ({
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
