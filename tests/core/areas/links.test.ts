import { namelessBuild } from '../../../src/core/areas/candidate/nameless-build.ts';
import { closedLinkFilter } from '../../../src/core/areas/links/closed-link-filter.ts';
import type { Component, IntentFilter } from '../../../src/core/model/app-package.ts';
import { aBuild, anIntent, departures, observeApp, run } from '../../support/facts.ts';

const VIEW = 'android.intent.action.VIEW';
const DEFAULT = 'android.intent.category.DEFAULT';
const BROWSABLE = 'android.intent.category.BROWSABLE';
const web: IntentFilter = {
  actions: [VIEW],
  categories: [DEFAULT, BROWSABLE],
  schemes: ['https'],
  authorities: [{ host: 'kelpline.example' }],
  specificParts: [],
  relativeGroups: [],
  paths: ['path=/pass'],
  mimeTypes: [],
  autoVerify: false,
};
const component = (filter: Partial<IntentFilter>, of: Partial<Component> = {}): Component => ({
  type: 'activity',
  name: 'app.Screen',
  exported: true,
  enabled: true,
  filters: [{ ...web, ...filter }],
  metaData: [],
  ...of,
});

test.each<[string, Component, string, string[], number?]>([
  ['open', component({}), 'passed', []],
  ['no BROWSABLE', component({ categories: [DEFAULT] }), 'failed', ['browsable']],
  ['no DEFAULT', component({ categories: [BROWSABLE] }), 'failed', ['default']],
  ['neither', component({ categories: [] }), 'failed', ['browsable', 'default']],
  ['not exported', component({}, { exported: false }), 'failed', ['exported']],
  ['switched off', component({}, { enabled: false }), 'failed', ['enabled']],
  ['an alias too', component({ categories: [DEFAULT] }, { type: 'activity-alias' }), 'failed', ['browsable']],
  ['exported not said, old target', component({}, { exported: 'unset' }), 'passed', [], 30],
  ['exported not said, new target', component({}, { exported: 'unset' }), 'failed', ['exported'], 31],
  [
    'a private scheme that nobody promises',
    component({ schemes: ['inner'], categories: [DEFAULT] }),
    'cantTell',
    ['browsable'],
  ],
  [
    'a private scheme of the intent file',
    component({ schemes: ['kelpline'], categories: [DEFAULT] }),
    'failed',
    ['browsable'],
  ],
  [
    'no VIEW: something else than a link',
    component({ actions: ['android.intent.action.SEND'], categories: [] }),
    'inapplicable',
    [],
  ],
  [
    'files and content are no links',
    component({ schemes: ['content', 'file'], categories: [] }),
    'inapplicable',
    [],
  ],
])('a link filter: %s', (_, of, outcome, lacks, targetSdk = 35) => {
  const [assertion] = run(
    closedLinkFilter,
    observeApp({ components: [of], targetSdk }),
    anIntent({ links: { schemes: ['kelpline'] } }),
  );
  expect(assertion!.outcome).toBe(outcome);
  if ('draft' in assertion!) expect(assertion!.draft.occurrence.data.lacks).toEqual(lacks);
});

test('services and filters without a scheme are no link filters', () => {
  const components = [
    component({ categories: [] }, { type: 'service' }),
    component({ schemes: [], categories: [] }),
  ];
  expect(run(closedLinkFilter, observeApp({ components }))).toEqual([]);
});

test('a finding keeps its identity when filters change places, and its component is named', () => {
  const closed = { ...web, categories: [DEFAULT] };
  const moved = component({}, { filters: [{ ...web, authorities: [{ host: 'other.example' }] }, closed] });
  const subjects = [component(closed), moved].map((of) =>
    departures(run(closedLinkFilter, observeApp({ components: [of] }))),
  );
  expect(subjects[0]).toEqual(subjects[1]);
  expect(subjects[0]).toEqual(['failed app.Screen https://kelpline.example/pass']);
});

test.each([
  [aBuild, []],
  [{ ...aBuild, version: '' }, ['version']],
  [{ ...aBuild, build: '0' }, ['build number']],
  [{ ...aBuild, code: 'none', build: '' }, ['build number', 'code']],
])('a build that does not name itself: %o', (build, lacks) => {
  const [assertion] = run(namelessBuild, observeApp({ build }));
  expect('draft' in assertion! ? assertion.draft.occurrence.data.lacks : []).toEqual(lacks);
});
