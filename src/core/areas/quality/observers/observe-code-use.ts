import type { BuildIdsFact, ExportKeyFact, PlatformCallsFact } from '../../../model/facts/quality.ts';
import type { PackageObserver } from '../../observer.ts';

/** What the code calls of what checks ask about, by what its symbols are known, what it says of encryption. */
export const observeCodeUse = {
  id: 'code-use',
  reads: 'package',
  *observe({ app, digest }) {
    const of = { platform: app.platform, evidence: digest };
    const use = app.android?.codeUse;
    if (use) {
      const { calls, mapIds, texts } = use;
      yield { kind: 'platform-calls', ...of, calls, texts } satisfies PlatformCallsFact;
      if (mapIds.length > 0)
        yield { kind: 'build-ids', ...of, part: 'code', sort: 'mapping', ids: mapIds } satisfies BuildIdsFact;
    }
    if (app.ios) {
      const value = app.ios.info.ITSAppUsesNonExemptEncryption;
      yield {
        kind: 'export-key',
        ...of,
        ...(value !== undefined && { value: typeof value === 'boolean' ? value : String(value) }),
      } satisfies ExportKeyFact;
      const { name, slices } = app.ios.executable;
      const ids = slices.map(({ uuid }) => uuid.replaceAll('-', '').toLowerCase()).filter(Boolean);
      if (ids.length > 0)
        yield { kind: 'build-ids', ...of, part: name, sort: 'dsym', ids } satisfies BuildIdsFact;
    }
  },
} satisfies PackageObserver;
