import type { AreaWords } from '../words.ts';

export const linksWords: AreaWords = {
  'closed-link-filter': ({ component, exported, lacks, link, meantForBrowsers, more, position }) => {
    const parts = (lacks as string[]).map((lack) => LACKS[lack]!);
    return {
      what: `A browser cannot open ${link}${Number(more) > 0 ? ` and ${more} more` : ''}`,
      measured: parts.map((part) => part.measured(String(exported))).join(', '),
      required: 'action VIEW, categories DEFAULT and BROWSABLE, on an enabled, exported component',
      why: `Filter ${position} of ${component} ${meantForBrowsers ? 'is meant for browsers' : 'may be meant for browsers'}, but ${parts.map((part) => part.why).join(', and ')}.`,
      remedy: parts.map((part) => part.remedy).join(' '),
    };
  },
};

const LACKS: Record<string, { measured: (exported: string) => string; why: string; remedy: string }> = {
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
