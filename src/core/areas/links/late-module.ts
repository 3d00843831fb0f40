/**
 * Activities whose code comes with a module that is fetched later: the manifest of the base names them, and who opens one before
 * the module is there ends the app, unless code asks for it first (Android developers, *Configure on-demand delivery*).
 */
import type { Assertion, Check } from '../check.ts';

const THERE_AT_ONCE = new Set(['base', 'install-time']);

export const lateModule = {
  id: 'late-module',
  area: 'links',
  needs: ['package', 'manifest'],
  *run(facts): Iterable<Assertion> {
    for (const { activities, evidence, modules } of facts.of('manifest')) {
      const late = modules.filter(({ delivery }) => !THERE_AT_ONCE.has(delivery));
      for (const { enabled, isLauncher, module: of, name, takesLinks } of activities) {
        const module = late.find((one) => one.name === of);
        if (!module || !enabled || !(isLauncher || takesLinks)) continue;
        yield {
          outcome: 'cantTell',
          draft: {
            identity: { subject: name },
            basis: 'estimated',
            severity: isLauncher ? 2 : 1,
            digest: `${module.name} ${module.delivery}`,
            occurrence: {
              evidence,
              shown: name,
              data: { activity: name, module: module.name, delivery: module.delivery, isLauncher },
            },
          },
        };
      }
      yield { outcome: late.length > 0 ? 'passed' : 'inapplicable' };
    }
  },
} satisfies Check;
