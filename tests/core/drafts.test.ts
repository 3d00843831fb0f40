/** Drafts of input files: whatever stands in a package, what comes out is YAML that holds just that. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { parse } from 'yaml';
import { sourceFolder } from '../../scripts/corpora.mjs';
import { draftIntent } from '../../src/core/drafts/intent-draft.ts';
import { readPackage } from '../../src/core/formats/package.ts';
import { openZip } from '../../src/core/formats/zip.ts';
import type { IntentFilter } from '../../src/core/model/app-package.ts';
import { bytesSource } from '../../src/core/model/ports.ts';
import { unwrap } from '../../src/core/model/problem.ts';
import { nodePorts } from '../../src/node/ports.ts';
import { aBuild, appEvidence } from '../support/facts.ts';
import { demoIpa } from '../support/served-lookout.ts';
import { writeZip } from '../support/zip-writer.ts';

// what YAML reads as something else, ends lines or begins comments with
const awkward = fc.oneof(
  fc.string({ unit: 'binary', maxLength: 30 }),
  fc
    .array(
      fc.constantFrom(
        '#',
        ': ',
        '- ',
        '\n',
        '\r',
        '\u2028',
        '\u0085',
        '"',
        "'",
        '*',
        '&',
        '!',
        '%',
        '@',
        '|',
        '>',
      ),
      { minLength: 1, maxLength: 8 },
    )
    .map((parts) => parts.join('x')),
  fc.constantFrom('true', 'no', 'null', '~', '1.0', '0x1F', '2026-11-29', '---', '...', '<<', '=', ''),
);

test('names that YAML could take for something else stay what they are', () => {
  fc.assert(
    fc.property(awkward, awkward, fc.uniqueArray(awkward), (id, name, schemes) => {
      const filter = { actions: ['android.intent.action.VIEW'], categories: [], schemes, authorities: [] };
      const { app } = appEvidence({
        name,
        build: { ...aBuild, appId: id, version: name },
        components: [
          {
            type: 'activity',
            name: `${id}.${name}Activity`,
            exported: true,
            enabled: true,
            filters: [filter as unknown as IntentFilter],
            metaData: [],
          },
        ],
      });
      const { questions, yaml } = draftIntent(app);
      const read = parse(yaml);
      expect(read.app).toEqual({ id });
      expect(read.links.schemes).toEqual(schemes);
      expect(Object.keys(read)).toEqual([
        'fenlok',
        'app',
        'sourceLocale',
        'locales',
        'themes',
        'screens',
        'coverage',
        'links',
      ]);
      // every question stands in it, in their order
      expect([...yaml.matchAll(/^ *# \? (.*)$/gm)].map(([, question]) => question)).toEqual(questions);
    }),
    { numRuns: 300 },
  );
});

describe('screens of an iOS package', () => {
  const plist = (body: string) =>
    new TextEncoder().encode(`<?xml version="1.0"?><plist version="1.0"><dict>${body}</dict></plist>`);
  const entry = (key: string, value: string) => `<key>${key}</key>${value}`;
  const string = (text: string) => `<string>${text}</string>`;
  const storyboard = (names: readonly string[], first = '') =>
    plist(
      entry(
        'UIViewControllerIdentifiersToNibNames',
        `<dict>${names.map((name) => entry(name, string(name))).join('')}</dict>`,
      ) + entry('UIStoryboardDesignatedEntryPointIdentifier', string(first)),
    );
  const scene = entry(
    'UIApplicationSceneManifest',
    `<dict>${entry('UISceneConfigurations', `<dict>${entry('UIWindowSceneSessionRoleApplication', `<array><dict>${entry('UISceneStoryboardFile', string('Tabs'))}</dict></array>`)}</dict>`)}</dict>`,
  );

  /** The demo's package with other files in it. */
  async function draftWith(files: Record<string, Uint8Array>) {
    const bytes = readFileSync(demoIpa);
    const zip = unwrap(await openZip('app.ipa', bytesSource(bytes), nodePorts));
    const app = 'Payload/Kelpline.app/';
    const own = [...zip.entries.keys()].filter((name) => !(name.slice(app.length) in files));
    const packed = writeZip([
      ...(await Promise.all(own.map(async (name) => ({ name, data: await zip.read(name) })))),
      ...Object.entries(files).map(([name, data]) => ({ name: app + name, data })),
    ]);
    const { app: read } = unwrap(await readPackage('app.ipa', bytesSource(packed), 'digest', nodePorts));
    return draftIntent(read).yaml;
  }

  test('those that storyboards name: of the scene first, and in it the one that it begins with; not what is shown at the start, nor of frameworks', async () => {
    const yaml = await draftWith({
      'Info.plist': plist(
        entry('CFBundleIdentifier', string('a.b')) +
          entry('CFBundleExecutable', string('Kelpline')) +
          entry('UILaunchStoryboardName', string('Launch')) +
          scene,
      ),
      'Base.lproj/Extra.storyboardc/Info.plist': storyboard(['HarbourPassVC', 'UIViewController-BYZ-38-t0r']),
      'de.lproj/Extra.storyboardc/Info.plist': storyboard(['Unseen']),
      'Tabs.storyboardc/Info.plist': storyboard(['BookingViewController', 'timetable'], 'timetable'),
      'Launch.storyboardc/Info.plist': storyboard(['Splash']),
      'Frameworks/X.framework/Theirs.storyboardc/Info.plist': storyboard(['Theirs']),
    });
    expect(parse(yaml).screens).toEqual([{ id: 'timetable' }, { id: 'booking' }, { id: 'harbour-pass' }]);
    expect(yaml).toContain('1 more in its storyboards has no identifier');
  });

  test('what code makes is told, too', async () => {
    expect(await draftWith({})).toContain('Code makes all of its screens');
  });

  const corpus = sourceFolder('assets-2023');
  (corpus ? test : test.skip)('of a storyboard that is built by Apple’s own tools', async () => {
    const built = join(corpus!, 'ios/Frameworks/FaceTecSDK.framework/Storyboard.storyboardc/Info.plist');
    const yaml = await draftWith({ 'Main.storyboardc/Info.plist': readFileSync(built) });
    expect(parse(yaml).screens.map(({ id }: { id: string }) => id)).toEqual(
      expect.arrayContaining(['face-scan', 'idcapture', 'idselection']),
    );
  });
});
