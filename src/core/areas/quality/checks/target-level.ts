/** What the platform asks of an app from its target level on, as far as the package tells. */

import { z } from 'zod';
import type { ComponentFact, PackageFact } from '../../../model/fact.ts';
import type { PlatformCallsFact } from '../../../model/facts/quality.ts';
import { type Assertion, defineCheck } from '../../check.ts';

const rules = ['edges', 'back', 'alarms', 'media', 'exported'] as const;
const dataSchema = z.strictObject({
  rule: z.enum(rules),
  targetSdk: z.number(),
  seen: z.string(),
});
type Data = z.infer<typeof dataSchema>;

interface Rule {
  /** From this target on. */
  since: number;
  /** What of the package breaks it; nothing where it holds; undefined where it does not apply. */
  broken(of: Looked): string[] | undefined;
  what: string;
  required: string;
  why: string;
  remedy: string;
}

interface Looked {
  app: PackageFact;
  has(call: RegExp): boolean;
  /** Activities, services and receivers with filters that do not say whether they are open. */
  unsaid: readonly string[];
}

const asks = ({ permissions }: PackageFact, name: string): boolean =>
  permissions.includes(`android.permission.${name}`);

const RULES: Record<Data['rule'], Rule> = {
  exported: {
    since: 31,
    broken: ({ unsaid }) => [...unsaid],
    what: 'A component with a filter does not say whether other apps may open it',
    required: 'android:exported, said on each component with an intent filter',
    why: 'Android 12 and later refuse to install the app.',
    remedy: 'Say android:exported="false" where no other app has to open it.',
  },
  alarms: {
    since: 31,
    broken: ({ app, has }) => {
      if (!has(/^android\.app\.AlarmManager\.(?:setExact|setAlarmClock)/)) return undefined;
      if (asks(app, 'USE_EXACT_ALARM')) return [];
      if (!asks(app, 'SCHEDULE_EXACT_ALARM')) return ['exact alarms are set without a permission for them'];
      return app.targetSdk! >= 33 && !has(/\.canScheduleExactAlarms$/)
        ? ['exact alarms are set, and nothing asks whether they may be']
        : [];
    },
    what: 'Exact alarms may be refused',
    required: 'SCHEDULE_EXACT_ALARM with canScheduleExactAlarms, or USE_EXACT_ALARM',
    why: 'Without the permission the call ends the app; from Android 14 on it is not given by itself.',
    remedy: 'Ask canScheduleExactAlarms first, or set an alarm that need not be exact.',
  },
  media: {
    since: 33,
    broken: ({ app }) => {
      if (!asks(app, 'READ_EXTERNAL_STORAGE')) return undefined;
      const named = app.permissions.some((name) => name.startsWith('android.permission.READ_MEDIA_'));
      return named ? [] : ['READ_EXTERNAL_STORAGE alone'];
    },
    what: 'Pictures and sounds of the device are out of reach',
    required: 'READ_MEDIA_IMAGES, READ_MEDIA_VIDEO or READ_MEDIA_AUDIO, or the photo picker',
    why: 'Android 13 and later give nothing for READ_EXTERNAL_STORAGE.',
    remedy: 'Let the photo picker choose, which needs no permission.',
  },
  edges: {
    since: 35,
    broken: ({ has }) =>
      has(
        /\.(?:setOnApplyWindowInsetsListener|setDecorFitsSystemWindows|enableEdgeToEdge)$|EdgeToEdge\.enable$/,
      )
        ? []
        : ['no code asks how far the bars reach'],
    what: 'Content may lie under the bars of the system',
    required: 'content that keeps clear of status and navigation bar',
    why: 'Android 15 and later draw the app from edge to edge, whether or not it was made for it.',
    remedy: 'Call enableEdgeToEdge, and give lists and buttons at the edges the insets of the window.',
  },
  back: {
    since: 36,
    broken: ({ has }) => {
      if (!has(/^\*\.onBackPressed$/)) return undefined;
      return has(/\.(?:registerOnBackInvokedCallback|addCallback)$/)
        ? []
        : ['onBackPressed, and no callback'];
    },
    what: 'What the app does on back is no longer called',
    required: 'OnBackPressedDispatcher, or OnBackInvokedCallback',
    why: 'Android 16 and later do not call onBackPressed: the app is left where it asked before.',
    remedy: 'Move what onBackPressed does into a callback of onBackPressedDispatcher.',
  },
};

export const targetLevel = defineCheck({
  id: 'target-level',
  area: 'quality',
  priority: 'harder',
  standard: 'Android developers, Behavior changes: apps targeting Android 12, 13, 14, 15, 16',
  basis: 'either',
  needs: 'platform-calls',
  reads: ['package', 'component'],
  data: dataSchema,
  words: ({ rule, seen, targetSdk }) => ({
    what: RULES[rule].what,
    measured: `${seen}, for target SDK ${targetSdk}`,
    required: RULES[rule].required,
    why: RULES[rule].why,
    remedy: RULES[rule].remedy,
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const [use] = facts.of('platform-calls');
    const [app] = facts.of('package');
    if (!use || app?.targetSdk === undefined) return;
    const looked = lookAt(app, use, facts.of('component'));
    for (const rule of rules) {
      const { broken, since } = RULES[rule];
      if (app.targetSdk < since) continue;
      const found = broken(looked);
      if (found?.length === 0) yield { outcome: 'passed' };
      for (const seen of found ?? []) {
        const isSure = rule === 'exported';
        yield {
          outcome: isSure ? 'failed' : 'cantTell',
          draft: {
            identity: { subject: isSure ? seen : rule, aspect: rule },
            basis: isSure ? 'measured' : 'estimated',
            severity: isSure ? 2 : 1,
            digest: rule,
            occurrence: {
              evidence: app.evidence,
              shown: seen,
              data: { rule, seen, targetSdk: app.targetSdk },
            },
          },
        };
      }
    }
  },

  doc: {
    looksAt: 'The target level, permissions, components, and the calls that the code refers to',
    against:
      'Level 31: `exported` said, exact alarms. 33: media permissions. 35: edge to edge. 36: back by gesture',
    matters: 'A new target changes how the app behaves on devices that its developers may not have.',
    measured: 'From the manifest, and from the methods that the dex files refer to.',
    errs: 'What is told by calls is estimated: a library may refer to what nothing calls, and a toolkit may keep clear of the bars by its own means.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'enableEdgeToEdge()\nViewCompat.setOnApplyWindowInsetsListener(list) { view, insets ->\n  view.updatePadding(bottom = insets.getInsets(systemBars()).bottom); insets\n}',
      },
    ],
  },
});

const lookAt = (
  app: PackageFact,
  { calls }: PlatformCallsFact,
  components: readonly ComponentFact[],
): Looked => ({
  app,
  has: (call) => calls.some((one) => call.test(one)),
  unsaid: components
    .filter(({ exported, filterCount }) => exported === 'unset' && filterCount > 0)
    .map(({ component }) => component),
});
