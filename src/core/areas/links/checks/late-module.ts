/**
 * Activities whose code comes with a module that is fetched later: the manifest of the base names them, and who opens one before
 * the module is there ends the app, unless code asks for it first (Android developers, *Configure on-demand delivery*).
 */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastPart } from '../../words.ts';

// Of the others, the code is there at once.
const deliveries = ['conditional', 'fast-follow', 'on-demand'] as const;
type Delivery = (typeof deliveries)[number];

const dataSchema = z.strictObject({
  activity: z.string(),
  module: z.string(),
  delivery: z.enum(deliveries),
  isLauncher: z.boolean(),
});
type Data = z.infer<typeof dataSchema>;

export const lateModule = defineCheck({
  id: 'late-module',
  area: 'links',
  priority: 'harder',
  standard: 'Android developers, Configure feature delivery',
  basis: 'estimated',
  needs: 'package',
  reads: ['manifest'],
  data: dataSchema,
  words: ({ activity, delivery, isLauncher, module }) => ({
    what: `${lastPart(activity)} may be opened before its code is on the device`,
    measured: `${isLauncher ? 'the launcher starts it' : 'it takes links'}, and its module ${module} is delivered ${DELIVERIES[delivery]}`,
    required: 'code that is there from the beginning',
    why: 'Whoever opens it before the module was fetched sees the app end, unless code asks for the module first.',
    remedy:
      'Let the links open an activity of the base module that fetches the module and goes on, or deliver the module at install time.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    for (const { activities, evidence, modules } of facts.of('manifest')) {
      const late = modules.flatMap(({ delivery, name }) => {
        const found = deliveries.find((one) => one === delivery);
        return found ? [{ name, delivery: found }] : [];
      });
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

  doc: {
    looksAt: 'Activities of modules that are fetched later and that the launcher or links open',
    against: 'None. Always estimated',
    matters: 'Whoever opens it before the module was fetched sees the app end.',
    measured:
      'The activities of modules of a bundle that are delivered later, and whether the launcher or links open them.',
    errs: 'Code may ask for the module first; always estimated.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: `// in an activity of the base module, which the link opens
SplitInstallManagerFactory.create(this).startInstall(request).addOnSuccessListener { goOn() }`,
      },
    ],
  },
});

const DELIVERIES: Record<Delivery, string> = {
  'on-demand': 'when code asks for it',
  'fast-follow': 'some time after the installation',
  conditional: 'to some devices alone',
};
