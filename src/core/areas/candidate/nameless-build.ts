import type { Check } from '../check.ts';

/** A candidate is one build: evidence is bound to app id, version, build number and code, so each must be there. */
export const namelessBuild = {
  id: 'nameless-build',
  area: 'candidate',
  needs: ['package'],
  *run(facts) {
    for (const { build, evidence } of facts.of('package')) {
      const lacks = [
        !build.version && 'version',
        !/^[1-9]/.test(build.build) && 'build number',
        build.code === 'none' && 'code',
      ].filter((lack) => lack !== false);
      if (lacks.length === 0) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: build.appId },
            basis: 'measured',
            severity: lacks.length,
            digest: lacks.join(' '),
            occurrence: { evidence, shown: '', data: { lacks } },
          },
        };
    }
  },
} satisfies Check;
