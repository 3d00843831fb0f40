import fc from 'fast-check';
import { namelessBuild } from '../../../src/core/areas/candidate/checks/nameless-build.ts';
import type { Check } from '../../../src/core/areas/check.ts';
import { ambiguousLink } from '../../../src/core/areas/links/checks/ambiguous-link.ts';
import { broadLinkFilter } from '../../../src/core/areas/links/checks/broad-link-filter.ts';
import { closedLinkFilter } from '../../../src/core/areas/links/checks/closed-link-filter.ts';
import { linkBack } from '../../../src/core/areas/links/checks/link-back.ts';
import { linkLanding } from '../../../src/core/areas/links/checks/link-landing.ts';
import { malformedLink } from '../../../src/core/areas/links/checks/malformed-link.ts';
import { needlessLinkFilter } from '../../../src/core/areas/links/checks/needless-link-filter.ts';
import { undeclaredRoute } from '../../../src/core/areas/links/checks/undeclared-route.ts';
import { unverifiedDomain } from '../../../src/core/areas/links/checks/unverified-domain.ts';
import { probesOf } from '../../../src/core/areas/links/probes.ts';
import { matchRoute } from '../../../src/core/areas/links/route-template.ts';
import { readSiteFile } from '../../../src/core/formats/site-file.ts';
import type { Component, IntentFilter, ProvisioningProfile } from '../../../src/core/model/app-package.ts';
import type { LinkRunFact, SiteFileFact } from '../../../src/core/model/facts/links.ts';
import { type Intent, intentSchema } from '../../../src/core/model/intent.ts';
import type { SiteFile } from '../../../src/core/model/site-file.ts';
import { parseLinkUri } from '../../../src/core/platform/links/link-uri.ts';
import { aBuild, aCell, aProfile, departures, observeApp, run } from '../../support/facts.ts';

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
const linksIntent = (links: object): Intent =>
  intentSchema.parse({
    fenlok: 'intent/1',
    app: { id: aBuild.appId },
    screens: [{ id: 'pass', activity: 'Screen' }],
    links,
  });
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
    linksIntent({ schemes: ['kelpline'] }),
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

const FINGERPRINT = Array.from({ length: 32 }, (_, i) => (i + 16).toString(16).toUpperCase()).join(':');
const sha256 = FINGERPRINT.replaceAll(':', '').toLowerCase();

const statement = (of: object = {}) =>
  JSON.stringify([
    {
      relation: ['delegate_permission/common.handle_all_urls'],
      target: {
        namespace: 'android_app',
        package_name: aBuild.appId,
        sha256_cert_fingerprints: [FINGERPRINT],
        ...of,
      },
    },
  ]);

const siteFact = (
  text: string,
  kind: SiteFile['kind'] = 'assetlinks',
  host = 'kelpline.example',
): SiteFileFact => ({
  kind: 'site-file',
  platform: 'android',
  evidence: 'site',
  site: readSiteFile('site', new TextEncoder().encode(text), { host, kind }),
});

const anApp = (filters: Partial<IntentFilter>[], of: Partial<Component> = {}) =>
  observeApp({
    components: filters.map((filter, i) => component(filter, { name: `app.Screen${i || ''}`, ...of })),
    signing: {
      schemes: [],
      certificates: [{ sha256, subject: '', issuer: '', validFrom: '', validUntil: '', key: '' }],
    },
  });

const pass = { id: 'pass', url: '/pass', screen: 'pass' };
const both = { schemes: ['https', 'http'], paths: ['path=/pass', 'path=/pass/'] };
const hosts = ['kelpline.example'];

test.each<[string, Partial<IntentFilter>[], object, string[]]>([
  ['all of it is declared', [both], {}, []],
  ['the s was forgotten', [{ ...both, schemes: ['http'] }], {}, ['failed route pass scheme']],
  ['the one without s was forgotten', [{ ...both, schemes: ['https'] }], {}, ['failed route pass scheme']],
  ['and nobody wants it', [{ ...both, schemes: ['https'] }], { webSchemes: ['https'] }, []],
  ['no slash', [{ ...both, paths: ['path=/pass'] }], {}, ['failed route pass path']],
  ['no www', [both], { hosts: ['kelpline.example', 'www.kelpline.example'] }, ['failed route pass host']],
  [
    'a port',
    [{ ...both, authorities: [{ host: 'kelpline.example', port: 8443 }] }],
    {},
    ['failed route pass port'],
  ],
  ['a type', [{ ...both, mimeTypes: ['text/plain'] }], {}, ['failed route pass type']],
  ['no filter at all', [], {}, []],
  ['what closed-link-filter tells', [{ ...both, categories: [DEFAULT] }], {}, []],
])('an undeclared route: %s', (_, filters, links, expected) => {
  const intent = linksIntent({ hosts, routes: [pass], ...links });
  expect(departures(run(undeclaredRoute, anApp(filters), intent))).toEqual(expected);
});

test.each<[string, Partial<IntentFilter>[], object[], string[]]>([
  ['one filter', [both], [pass], []],
  ['two activities', [both, both], [pass], ['failed route pass']],
  ['two routes', [both], [pass, { ...pass, id: 'plans' }], ['failed route pass', 'failed route plans']],
  [
    'a word that an argument may be',
    [{ ...both, paths: ['pathPrefix=/'] }],
    [pass, { id: 'any', url: '/{what}', screen: 'pass' }],
    ['failed route pass'],
  ],
  [
    'a word that is no number',
    [{ ...both, paths: ['pathPrefix=/'] }],
    [pass, { id: 'any', url: '/{what}', screen: 'pass', arguments: { what: { type: 'integer' } } }],
    [],
  ],
])('an ambiguous link: %s', (_, filters, routes, expected) => {
  const found = departures(run(ambiguousLink, anApp(filters), linksIntent({ hosts, routes })));
  expect([...new Set(found)]).toEqual(expected);
});

test.each<[string, Partial<IntentFilter>, object, string[]]>([
  ['its own host', both, {}, []],
  ['every host', { ...both, authorities: [{ host: '*' }] }, {}, ['failed every-host']],
  ['no host', { ...both, authorities: [], paths: [] }, {}, ['failed every-host']],
  ['alike', { ...both, authorities: [{ host: '*kelpline.example' }] }, {}, ['failed alike-hosts']],
  [
    'a wildcard of its own',
    { ...both, authorities: [{ host: '*.kelpline.example' }] },
    { hosts: ['www.kelpline.example'] },
    [],
  ],
  [
    'a host that nobody named',
    { ...both, authorities: [{ host: 'other.example' }] },
    {},
    ['failed other-host'],
  ],
  [
    'a page of the site',
    { ...both, paths: ['pathPrefix=/'] },
    { browser: ['https://kelpline.example/staff'] },
    ['failed browser-url'],
  ],
  ['the middle of a name', { ...both, paths: ['pathPrefix=/pass'] }, {}, ['cantTell alike-path']],
  ['a private scheme', { schemes: ['kelpline'], authorities: [], paths: [] }, {}, []],
])('a broad filter: %s', (_, filter, links, expected) => {
  const found = run(broadLinkFilter, anApp([filter]), linksIntent({ hosts, ...links }));
  expect(
    found.flatMap((one) => ('draft' in one ? [`${one.outcome} ${one.draft.identity.aspect}`] : [])),
  ).toEqual(expected);
});

test('a filter that no route needs', () => {
  const facts = anApp([both, { schemes: ['kelpline'], authorities: [{ host: 'crew' }], paths: [] }]);
  const found = (routes: object[]) =>
    departures(run(needlessLinkFilter, facts, linksIntent({ hosts, routes })));
  expect(found([pass])).toEqual(['failed app.Screen1 kelpline://crew']);
  expect(found([pass, { id: 'crew', url: 'kelpline://crew', screen: 'pass' }])).toEqual([]);
  // nobody has said what is needed
  expect(found([])).toEqual([]);
});

const OK = 'HTTP/2 200\ncontent-type: application/json; charset=utf-8\n\n';
test.each<[string, string | undefined, string, IntentFilter['autoVerify']?]>([
  ['it agrees', OK + statement(), 'passed'],
  ['without a head', statement(), 'passed'],
  ['nobody gave it', undefined, 'untested'],
  ['another app', statement({ package_name: 'example.other' }), 'other-app'],
  [
    'another certificate',
    statement({ sha256_cert_fingerprints: [FINGERPRINT.replace('10', 'FF')] }),
    'other-certificate',
  ],
  ['another relation', '[{"relation":["x"],"target":{"namespace":"web"}}]', 'other-app'],
  ['HTML', `${OK}<!doctype html><title>Sign in</title>`, 'unreadable'],
  [
    'a redirect',
    `HTTP/1.1 301 Moved\r\nlocation: https://www.kelpline.example/\r\n\r\n${OK}${statement()}`,
    'redirected',
  ],
  ['not there', 'HTTP/2 404\ncontent-type: text/html\n\nno', 'unreadable'],
  ['as text', `HTTP/2 200\ncontent-type: text/plain\n\n${statement()}`, 'content-type'],
  ['another form', '{"relation":[]}', 'unreadable'],
  ['cut off', statement().slice(0, 40), 'unreadable'],
  ['nobody asks', statement(), 'not-asked', false],
])('a site and its app: %s', (_, text, expected, autoVerify = true) => {
  const facts = [...anApp([{ ...both, autoVerify }]), ...(text === undefined ? [] : [siteFact(text)])];
  const [assertion] = run(unverifiedDomain, facts, linksIntent({ hosts, routes: [pass] }));
  expect('draft' in assertion! ? assertion.draft.identity.aspect : assertion!.outcome).toBe(expected);
});

test('a fingerprint that is none, the certificate of a store, and the site of a wildcard', () => {
  const small = statement({ sha256_cert_fingerprints: [FINGERPRINT, FINGERPRINT.toLowerCase()] });
  const of = (text: string, links: object, authorities = [{ host: 'kelpline.example' }]) =>
    run(
      unverifiedDomain,
      [...anApp([{ ...both, authorities, autoVerify: true }]), siteFact(text)],
      linksIntent({ hosts, routes: [pass], ...links }),
    ).map((one) => ('draft' in one ? one.draft.identity.aspect : one.outcome));
  const HEAD = 'untested';
  expect(of(small, {})).toEqual(['passed', HEAD, `fingerprint of ${aBuild.appId}`]);
  expect(of(OK + statement(), {})).toEqual(['passed']);
  expect(of(statement(), { certificates: ['ab'.repeat(32)] })).toEqual(['other-certificate']);
  expect(of(statement(), { hosts: ['www.kelpline.example'] }, [{ host: '*.kelpline.example' }])).toEqual([
    'passed',
    HEAD,
  ]);
});

test('what an iOS site says, and how large it may be', () => {
  const app = observeApp({
    ios: {
      associatedDomains: ['applinks:kelpline.example', 'webcredentials:kelpline.example'],
      entitlements: { 'application-identifier': 'TEAM.example.app' },
    },
  });
  const of = (links: object, pad = '') => {
    const text = `${JSON.stringify({ applinks: links })}${pad}`;
    const found = run(unverifiedDomain, [...app, siteFact(text, 'apple-app-site-association')]);
    return found.map((one) => ('draft' in one ? one.draft.identity.aspect : one.outcome));
  };
  expect(of({ details: [{ appIDs: ['TEAM.example.app'] }] })).toEqual(['passed', 'untested']);
  expect(of({ details: [{ appID: 'TEAM.example.app', paths: ['*'] }] })).toEqual(['passed', 'untested']);
  expect(of({ details: [{ appIDs: ['OTHER.example.app'] }] })).toEqual(['other-app']);
  // developer mode works in builds for development, and where the domain is asked for without it too
  const inMode = (kind: ProvisioningProfile['kind'], ...associatedDomains: string[]) =>
    run(unverifiedDomain, observeApp({ ios: { associatedDomains, profile: { ...aProfile, kind } } })).map(
      (one) => ('draft' in one ? one.draft.identity.aspect : one.outcome),
    );
  const dev = 'applinks:kelpline.example?mode=developer';
  expect(inMode('store', dev)).toEqual(['developer-mode']);
  expect(inMode('ad-hoc', dev)).toEqual(['developer-mode']);
  expect(inMode('development', dev)).toEqual(['untested']);
  expect(inMode('store', dev, 'applinks:kelpline.example')).toEqual(['untested']);
  expect(inMode('store', 'applinks:kelpline.example?mode=managed')).toEqual(['untested']);
  expect(of({ details: [{ appIDs: ['TEAM.example.app'] }] }, ' '.repeat(128 * 1024))).toEqual(['unreadable']);
});

test('probes: as promised, as people change them, and malformed', () => {
  const intent = linksIntent({
    hosts: ['a.example', 'www.a.example'],
    routes: [
      {
        id: 'r',
        url: '/s/{n}?to={to?}',
        screen: 'pass',
        arguments: { n: { type: 'integer' }, to: { example: 'süd ost' } },
      },
    ],
  });
  const probes = probesOf(intent);
  const urls = (kind: string) => probes.filter((probe) => probe.kind === kind).map(({ url }) => url);
  expect(urls('good')).toEqual(['https://a.example/s/2?to=s%C3%BCd%20ost']);
  expect(urls('edge')).toEqual(
    expect.arrayContaining([
      'https://www.a.example/s/2?to=s%C3%BCd%20ost',
      'http://a.example/s/2?to=s%C3%BCd%20ost',
      'https://a.example/s/2/?to=s%C3%BCd%20ost',
      'https://a.example/s/2?to=%C3%85kra%207',
      'https://a.example/s/2?to=s%C3%BCd%20ost&from=mail',
    ]),
  );
  expect(urls('hostile')).toEqual(
    expect.arrayContaining([
      'https://a.example/s/?to=s%C3%BCd%20ost',
      'https://a.example/s/abc?to=s%C3%BCd%20ost',
    ]),
  );
  expect(new Set(probes.map(({ url }) => url)).size).toBe(probes.length);
  // every promised one is found again, with what was put in
  for (const { arguments: of, kind, url } of probes)
    if (kind !== 'hostile') {
      const found = matchRoute(parseLinkUri(url), intent.links)!;
      expect([url, found.route.id, found.arguments]).toEqual([url, 'r', of]);
    }
});

describe('routes made by chance, declared as they should be, and then with one thing left out', () => {
  const word = fc.stringMatching(/^[a-z]{2,6}$/);
  const route = fc.record({
    words: fc.uniqueArray(word, { minLength: 1, maxLength: 3 }),
    takesArgument: fc.boolean(),
    hosts: fc.uniqueArray(
      word.map((name) => `${name}.example`),
      { minLength: 1, maxLength: 3 },
    ),
    web: fc.constantFrom<('http' | 'https')[]>(['https'], ['https', 'http']),
  });
  type Made = typeof route extends fc.Arbitrary<infer R> ? R : never;
  /** What the route promises, and the filter that takes all of it. */
  const made = ({ hosts: names, takesArgument, web, words }: Made) => {
    const path = `/${words.join('/')}`;
    const declared: Partial<IntentFilter> = {
      schemes: web,
      authorities: names.map((host) => ({ host })),
      paths: takesArgument ? [`pathPrefix=${path}/`] : [`path=${path}`, `path=${path}/`],
      autoVerify: true,
    };
    const links = {
      hosts: names,
      webSchemes: web,
      routes: [
        {
          id: 'r',
          url: takesArgument ? `${path}/{of}` : path,
          screen: 'pass',
          arguments: takesArgument ? { of: { type: 'integer' } } : {},
        },
      ],
    };
    const site = names.map((host) => siteFact(statement(), 'assetlinks', host));
    return { declared, intent: linksIntent(links), site };
  };
  const found = (filter: Partial<IntentFilter>, intent: Intent, site: SiteFileFact[]) => {
    const facts = [...anApp([filter]), ...site];
    return [
      undeclaredRoute,
      unverifiedDomain,
      ambiguousLink,
      broadLinkFilter,
      needlessLinkFilter,
      closedLinkFilter,
    ]
      .flatMap((check) => departures(run(check, facts, intent)).map((one) => `${check.id} ${one}`))
      .filter((one) => one.includes('failed'));
  };

  test('nothing departs, and each mutant is found by what it lacks', () => {
    fc.assert(
      fc.property(route, fc.nat(), (of, pick) => {
        const { declared, intent, site } = made(of);
        expect(found(declared, intent, site)).toEqual([]);
        const left = <T>(list: readonly T[]) => list.filter((_, i) => i !== pick % list.length);
        const mutants: [Partial<IntentFilter>, SiteFileFact[], RegExp][] = [
          [{ schemes: ['ftp'] }, site, /undeclared-route failed route r scheme/],
          [{ authorities: [{ host: 'stranger.example' }] }, site, /undeclared-route failed route r host/],
          [{ paths: ['path=/nowhere'] }, site, /undeclared-route failed route r path/],
          [{ categories: [DEFAULT] }, site, /closed-link-filter/],
          [{ autoVerify: false }, site, /unverified-domain failed \S+ not-asked/],
          [{ authorities: [{ host: '*' }] }, site, /broad-link-filter .* every-host/],
          [
            {},
            site.map(() =>
              siteFact(statement({ package_name: 'x' }), 'assetlinks', of.hosts[pick % of.hosts.length]!),
            ),
            /unverified-domain failed \S+ other-app/,
          ],
        ];
        if (of.web.length > 1) mutants.push([{ schemes: left(of.web) }, site, /route r scheme/]);
        if (of.hosts.length > 1)
          mutants.push([{ authorities: left(declared.authorities!) }, site, /route r host/]);
        if (!of.takesArgument) mutants.push([{ paths: left(declared.paths!) }, site, /route r path/]);
        for (const [change, sites, expected] of mutants)
          expect(found({ ...declared, ...change }, intent, sites).join('; ')).toMatch(expected);
      }),
      { numRuns: 150 },
    );
  });
});

const aLink: LinkRunFact = {
  kind: 'link-run',
  cell: aCell,
  evidence: 'trace',
  platform: 'android',
  at: '2026-11-23T10:00:00.000Z',
  deviceId: 'd',
  sdk: 35,
  route: 'pass',
  url: 'kelpline://pass/7',
  probe: 'good',
  variant: 'example',
  how: 'front',
  addressed: false,
  arguments: { id: '7' },
  started: 'example.app/app.Screen',
  landed: 'example.app/app.Screen',
  inApp: true,
  from: 'example.app/app.Start',
  texts: ['Day pass'],
};
const crashed = { exception: 'java.lang.NullPointerException', message: '', frame: 'app.Screen.onCreate' };
const hostile = { probe: 'hostile' as const, variant: 'long' };

test.each<[string, Check, Partial<LinkRunFact>, string[]]>([
  ['link-landing: there', linkLanding, {}, []],
  ['link-landing: the app ended', linkLanding, { crash: crashed }, ['failed route pass crashed front']],
  ['link-landing: no answer', linkLanding, { notResponding: true }, ['failed route pass crashed front']],
  [
    'link-landing: somebody else took it',
    linkLanding,
    { inApp: false, landed: 'other/.Main' },
    ['failed route pass not-opened front'],
  ],
  [
    'link-landing: another screen',
    linkLanding,
    { landed: 'example.app/app.Start' },
    ['failed route pass other-screen front'],
  ],
  [
    'link-landing: told another argument',
    linkLanding,
    { told: { id: '8' } },
    ['failed route pass argument-lost front'],
  ],
  ['link-landing: told the argument', linkLanding, { told: { id: '7' } }, []],
  [
    'link-landing: the text is not there',
    linkLanding,
    { texts: ['Pass'] },
    ['failed route pass argument-lost front'],
  ],
  ['link-landing: made to break it', linkLanding, { ...hostile, crash: crashed }, []],
  ['link-landing: of no route', linkLanding, { route: 'other', crash: crashed }, []],
  ['malformed-link: shown as well as can be', malformedLink, hostile, []],
  [
    'malformed-link: the app ended',
    malformedLink,
    { ...hostile, crash: crashed },
    ['failed route pass crash app.Screen.onCreate'],
  ],
  [
    'malformed-link: no answer',
    malformedLink,
    { ...hostile, notResponding: true },
    ['failed route pass not-responding'],
  ],
  ['malformed-link: an empty screen', malformedLink, { ...hostile, texts: [] }, ['failed route pass blank']],
  ['malformed-link: empty, and not of the app', malformedLink, { ...hostile, inApp: false, texts: [] }, []],
  ['malformed-link: a good one', malformedLink, { crash: crashed }, []],
  ['link-back: to where it was', linkBack, { backChain: ['example.app/app.Start', ''] }, []],
  ['link-back: never out', linkBack, { backChain: ['example.app/app.Start'] }, ['failed route pass trap']],
  [
    'link-back: there twice',
    linkBack,
    { backChain: ['example.app/app.Screen', 'example.app/app.Start', ''] },
    ['failed route pass twice'],
  ],
  ['link-back: what was in front is gone', linkBack, { backChain: [''] }, ['failed route pass lost-place']],
  ['link-back: nothing was in front', linkBack, { how: 'cold', backChain: [''] }, []],
  ['link-back: nobody walked', linkBack, {}, []],
])('%s', (_, check, of, found) => {
  const intent = linksIntent({
    routes: [{ id: 'pass', url: 'kelpline://pass/{id}', screen: 'pass', shows: ['Day pass'] }],
  });
  const app = observeApp({ components: [component({ schemes: ['kelpline'], authorities: [], paths: [] })] });
  expect(departures(run(check, [...app, { ...aLink, ...of }], intent))).toEqual(found);
});

test.each([
  ['android', 0],
  ['ios', 1],
] as const)(
  'on %s a landing that nobody walked back from is untested where no drill can',
  (platform, count) => {
    const intent = linksIntent({ routes: [{ id: 'pass', url: 'kelpline://pass', screen: 'pass' }] });
    const untested = run(linkBack, [{ ...aLink, platform }], intent).filter(
      ({ outcome }) => outcome === 'untested',
    );
    expect(untested).toHaveLength(count);
  },
);

test.each([
  ['of the screen that was looked at', { likeGoal: 0.9 }, []],
  ['of another', { likeGoal: 0.3 }, ['failed route pass other-screen front']],
  ['of a screen that nobody could reach', {}, []],
])('on iOS a link lands on the likeness %s', (_, of, found) => {
  const intent = linksIntent({ routes: [{ id: 'pass', url: 'kelpline://pass', screen: 'pass' }] });
  const landed = {
    ...aLink,
    platform: 'ios' as const,
    landed: 'example.app/',
    started: 'example.app/',
    ...of,
  };
  const assertions = run(linkLanding, [landed], intent);
  expect(departures(assertions)).toEqual(found);
  expect(assertions.some(({ outcome }) => outcome === 'untested')).toBe(!('likeGoal' in of));
});
