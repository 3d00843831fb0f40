import type { Assertion, Check } from '../check.ts';

/** A build that a debugger may attach to, or that only a developer may install, is not the one that ships. */
export const debugBuild = {
  id: 'debug-build',
  area: 'candidate',
  needs: ['package'],
  *run(facts): Iterable<Assertion> {
    for (const { build, debuggable, evidence, platform, testOnly } of facts.of('package')) {
      const marks = [debuggable && 'debuggable', testOnly && 'testOnly'].filter((mark) => mark !== false);
      if (marks.length === 0) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: build.appId },
            basis: 'measured',
            severity: marks.length,
            digest: marks.join(' '),
            occurrence: { evidence, shown: '', data: { marks, platform } },
          },
        };
    }
  },
} satisfies Check;
