import { z } from 'zod';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({ lacks: z.array(z.string()) });

/** A candidate is one build: evidence is bound to app id, version, build number and code, so each must be there. */
export const namelessBuild = defineCheck({
  id: 'nameless-build',
  area: 'candidate',
  priority: 'cannot-ship',
  standard: 'Android developers, Version your app; Apple, CFBundleVersion',
  basis: 'measured',
  needs: 'package',
  data: dataSchema,
  words: ({ lacks }) => ({
    what: 'The package does not name its build',
    measured: `no ${(lacks as string[]).join(', no ')}`,
    required: 'a version, a build number and code',
    why: 'Evidence is bound to the build that it was seen on; without these, two builds cannot be told apart.',
    remedy: 'Set version and build number in the build, and give the package as it ships.',
  }),

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

  doc: {
    looksAt: 'Version, build number and code of the package',
    against: 'Each must be there, since evidence is bound to them',
    matters: 'Two builds that nobody can tell apart share evidence that belongs to one of them.',
    measured: 'Version, build number and code of the package.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'build.gradle.kts',
        language: 'kotlin',
        code: 'defaultConfig { versionCode = 42; versionName = "2.4.0" }',
      },
      {
        where: 'Info.plist',
        language: 'xml',
        code: `<key>CFBundleShortVersionString</key><string>2.4.0</string>
<key>CFBundleVersion</key><string>42</string>`,
      },
    ],
  },
});
