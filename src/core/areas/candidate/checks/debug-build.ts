import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({ marks: z.array(z.string()), platform: z.enum(['android', 'ios']) });
type Data = z.infer<typeof dataSchema>;

/** A build that a debugger may attach to, or that only a developer may install, is not the one that ships. */
export const debugBuild = defineCheck({
  id: 'debug-build',
  area: 'candidate',
  priority: 'cannot-ship',
  standard: 'Google Play (debuggable packages are refused); Apple, TN3125',
  basis: 'measured',
  needs: 'package',
  data: dataSchema,
  words: ({ marks, platform }) => {
    const said = marks.map((mark) =>
      mark === 'testOnly'
        ? 'android:testOnly="true"'
        : platform === 'ios'
          ? 'entitlement get-task-allow'
          : 'android:debuggable="true"',
    );
    return {
      what: 'This is a debug build, not the one that ships',
      measured: said.join(', '),
      required: 'a release build',
      why: 'A debugger can attach to it, and anybody with the device can read its data. Stores refuse it, and what is measured on it may not hold for the release.',
      remedy:
        platform === 'ios'
          ? 'Archive with the Release configuration and sign with a distribution profile.'
          : 'Build the release variant, and leave both attributes to the build.',
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
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

  doc: {
    looksAt: '`android:debuggable`, `android:testOnly`, the entitlement `get-task-allow`',
    against: 'None of them in a release',
    matters:
      'A debugger can attach to it, and anybody with the device can read its data. What is measured on it may not hold for the release.',
    measured: "The manifest's attributes, and the entitlements of the signature.",
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'build.gradle.kts',
        language: 'kotlin',
        code: 'buildTypes { release { isDebuggable = false } }',
      },
      {
        where: 'iOS, the entitlements of the release',
        language: 'xml',
        code: '<key>get-task-allow</key><false/>',
      },
    ],
  },
});
