/**
 * A link opens an app from a browser only through a filter with VIEW, DEFAULT and BROWSABLE on an enabled,
 * exported component (Android developers, *Create deep links to app content*).
 */

import { z } from 'zod';
import type { LinkFilterFact } from '../../../model/facts/links.ts';
import { BROWSABLE, DEFAULT, VIEW } from '../../../platform/links/link-filter.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { formatFilter, moreLinks } from '../format-filter.ts';

// Since target SDK 31 a component with a filter must say whether it is exported; before, a filter meant yes.
const EXPORTED_MUST_BE_SAID = 31;

const lacks = ['browsable', 'default', 'exported', 'enabled'] as const;

const dataSchema = z.strictObject({
  component: z.string(),
  position: z.number(),
  link: z.string(),
  more: z.number(),
  lacks: z.array(z.enum(lacks)),
  exported: z.enum(['unset', 'true', 'false']),
  meantForBrowsers: z.boolean(),
});
type Data = z.infer<typeof dataSchema>;

export const closedLinkFilter = defineCheck({
  id: 'closed-link-filter',
  area: 'links',
  priority: 'cannot-use',
  standard: 'Android developers, Create deep links to app content',
  basis: 'either',
  needs: 'package',
  reads: ['link-filter'],
  data: dataSchema,
  words: ({ component, exported, lacks: missing, link, meantForBrowsers, more, position }) => {
    const parts = missing.map((lack) => LACKS[lack]);
    return {
      what: `A browser cannot open ${link}${more > 0 ? ` and ${more} more` : ''}`,
      measured: parts.map((part) => part.measured(exported)).join(', '),
      required: 'action VIEW, categories DEFAULT and BROWSABLE, on an enabled, exported component',
      why: `Filter ${position} of ${component} ${meantForBrowsers ? 'is meant for browsers' : 'may be meant for browsers'}, but ${parts.map((part) => part.why).join(', and ')}.`,
      remedy: parts.map((part) => part.remedy).join(' '),
    };
  },

  *run(facts, intent) {
    const targetSdk = facts.of('package')[0]?.targetSdk ?? 1;
    for (const filter of facts.of('link-filter')) yield judgeFilter(filter, targetSdk, intent);
  },

  doc: {
    looksAt: 'Every intent filter that names a scheme',
    against:
      'VIEW, DEFAULT and BROWSABLE, on an enabled, exported component. Estimated for private schemes that nobody promises',
    matters: 'A tap on the link in a browser or a mail does nothing.',
    measured:
      'Action, categories, and whether the component is enabled and exported, of every filter that names a scheme.',
    errs: "Private schemes that no route promises may be for the app's own use, so that they are estimated.",
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: `<activity android:name=".SailingActivity" android:exported="true">
  <intent-filter>
    <action android:name="android.intent.action.VIEW" />
    <category android:name="android.intent.category.DEFAULT" />
    <category android:name="android.intent.category.BROWSABLE" />
    <data android:scheme="kelpline" />
  </intent-filter>
</activity>`,
      },
    ],
  },
});

function judgeFilter(fact: LinkFilterFact, targetSdk: number, intent: IntentWith): Assertion<Data> {
  const { filter } = fact;
  const schemes = filter.schemes.filter((scheme) => scheme !== 'content' && scheme !== 'file');
  if (!filter.actions.includes(VIEW) || schemes.length === 0) return { outcome: 'inapplicable' };
  const exported = fact.exported === 'unset' ? targetSdk < EXPORTED_MUST_BE_SAID : fact.exported;
  const has: Record<(typeof lacks)[number], boolean> = {
    browsable: filter.categories.includes(BROWSABLE),
    default: filter.categories.includes(DEFAULT),
    exported,
    enabled: fact.enabled,
  };
  const missing = lacks.filter((lack) => !has[lack]);
  if (missing.length === 0) return { outcome: 'passed' };
  // A private scheme without BROWSABLE may be meant for the team's own apps; all else is asked for by a browser.
  const meantForBrowsers =
    filter.autoVerify ||
    filter.categories.includes(BROWSABLE) ||
    schemes.some((scheme) => /^https?$/i.test(scheme) || intent.links.schemes.includes(scheme));
  return {
    outcome: meantForBrowsers ? 'failed' : 'cantTell',
    draft: {
      identity: { subject: `${fact.component} ${formatFilter(filter)}` },
      target: { kind: 'component', id: fact.component },
      basis: meantForBrowsers ? 'measured' : 'estimated',
      severity: missing.length,
      digest: missing.join(' '),
      occurrence: {
        evidence: fact.evidence,
        shown: formatFilter(filter),
        data: {
          component: fact.component,
          position: fact.position,
          link: formatFilter(filter),
          more: moreLinks(filter),
          lacks: missing,
          exported: `${fact.exported}`,
          meantForBrowsers,
        },
      },
    },
  };
}

const LACKS: Record<
  (typeof lacks)[number],
  { measured: (exported: string) => string; why: string; remedy: string }
> = {
  browsable: {
    measured: () => 'no category BROWSABLE',
    why: 'without BROWSABLE browsers and mail apps are not allowed to use it',
    remedy: 'Add <category android:name="android.intent.category.BROWSABLE" /> to the filter.',
  },
  default: {
    measured: () => 'no category DEFAULT',
    why: 'without DEFAULT no implicit intent is matched to it',
    remedy: 'Add <category android:name="android.intent.category.DEFAULT" /> to the filter.',
  },
  exported: {
    measured: (exported) =>
      exported === 'unset' ? 'android:exported is not set' : 'android:exported="false"',
    why: 'other apps may not start a component that is not exported',
    remedy:
      'Set android:exported="true" on the component, and check what it does with arguments from outside.',
  },
  enabled: {
    measured: () => 'android:enabled="false"',
    why: 'the component is switched off',
    remedy: 'Enable the component, or remove the filter.',
  },
};
