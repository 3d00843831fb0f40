/** Logs, permissions, the target level, symbols: each flaw by itself, and what cannot be told. */
import type { Check } from '../../../src/core/areas/check.ts';
import { exportKey } from '../../../src/core/areas/quality/checks/export-key.ts';
import { keptSymbols } from '../../../src/core/areas/quality/checks/kept-symbols.ts';
import { leftBehind } from '../../../src/core/areas/quality/checks/left-behind.ts';
import { loggedCrash } from '../../../src/core/areas/quality/checks/logged-crash.ts';
import { mainThreadWork } from '../../../src/core/areas/quality/checks/main-thread-work.ts';
import { permissionUse } from '../../../src/core/areas/quality/checks/permission-use.ts';
import { skippedFrames } from '../../../src/core/areas/quality/checks/skipped-frames.ts';
import { targetLevel } from '../../../src/core/areas/quality/checks/target-level.ts';
import type { ComponentFact, Fact, PackageFact } from '../../../src/core/model/fact.ts';
import type { TroubleFact } from '../../../src/core/model/facts/quality.ts';
import { aBuild, departures, run } from '../../support/facts.ts';

const of = { platform: 'android' as const, evidence: 'e' };
const log = (sawApp = true, lines = 9, shown = ['example.app.Main']): Fact => ({
  kind: 'device-log',
  ...of,
  file: 'a.log',
  lines,
  sawApp,
  version: '',
  made: shown,
  ended: shown,
});
const trouble = (sort: TroubleFact['sort'], more: Partial<TroubleFact> = {}): Fact => ({
  kind: 'trouble',
  ...of,
  file: 'a.log',
  sort,
  at: '',
  thread: 'main',
  exception: '',
  message: '',
  frame: 'example.app.Cart.total, line 3',
  isOwn: true,
  or: [],
  frames: [],
  about: '',
  framesSkipped: 0,
  count: 1,
  ...more,
});
const policy = (name: string, isOwn = true) =>
  trouble('thread-policy', { exception: `android.os.strictmode.${name}`, isOwn });
const app = (targetSdk: number, ...permissions: string[]): PackageFact => ({
  kind: 'package',
  ...of,
  container: 'apk',
  build: aBuild,
  minSdk: 24,
  targetSdk,
  debuggable: false,
  testOnly: false,
  permissions: permissions.map((name) => (name.includes('.') ? name : `android.permission.${name}`)),
  locales: ['en'],
});
const uses = (...named: string[]): Fact => ({
  kind: 'platform-calls',
  ...of,
  calls: named.filter((one) => !one.startsWith('android.intent.')),
  texts: named.filter((one) => one.startsWith('android.intent.')),
});
const component = (
  exported: ComponentFact['exported'],
  filterCount: number,
  serviceTypes?: string[],
): Fact => ({
  kind: 'component',
  ...of,
  component: 'example.app.Main',
  componentType: 'activity',
  exported,
  enabled: true,
  actions: [],
  filterCount,
  ...(serviceTypes && { serviceTypes }),
});
const other: Fact = { ...(component(true, 0) as ComponentFact), component: 'example.app.Other' };
const waking: Fact = {
  ...(component(true, 1) as ComponentFact),
  actions: ['android.intent.action.BOOT_COMPLETED'],
};
const native: Fact = {
  kind: 'native-library',
  ...of,
  file: 'lib/arm64-v8a/a.so',
  abi: 'arm64-v8a',
  segmentAlignBytes: 16384,
} as Fact;
const listing = (age?: number): Fact => ({
  kind: 'listing',
  ...of,
  store: 'google-play',
  locale: 'en',
  name: 'a.yaml',
  texts: { name: '', short: '', full: '', news: '', promotion: '', keywords: [] } as never,
  addresses: {} as never,
  pictures: [],
  ...(age !== undefined && { age }),
});
const ids = (sort: 'mapping' | 'dsym', part: string, ...all: string[]): Fact => ({
  kind: 'build-ids',
  ...of,
  part,
  sort,
  ids: all,
});
const symbols = (sort: 'mapping' | 'dsym', file: string, mapId: string, ...uuids: string[]): Fact => ({
  kind: 'symbols',
  ...of,
  file,
  sort,
  sha256: '0'.repeat(64),
  mapId,
  classes: 1,
  uuids,
});

const RATIONALE = 'android.app.Activity.shouldShowRequestPermissionRationale';
const POLICY = 'android.os.StrictMode.setThreadPolicy';
const INSETS = 'androidx.core.view.ViewCompat.setOnApplyWindowInsetsListener';
const LOCATION = 'android.location.LocationManager.requestLocationUpdates';
const EXACT = 'android.app.AlarmManager.setExact';

/** `passed`, `untested`, or what departs, each once. */
const told = (check: Check, facts: Fact[]): string[] => {
  const assertions = run(check, facts);
  const plain = assertions
    .map(({ outcome }) => outcome)
    .filter((outcome) => !/failed|cantTell/.test(outcome));
  const found = departures(assertions);
  // its rules are many, and those that hold pass beside the one that does not
  return [...new Set([...found, ...(check === targetLevel && found.length > 0 ? [] : plain)])].sort();
};

test.each<[what: string, check: Check, facts: Fact[], found: string[]]>([
  ['a log without a crash', loggedCrash, [app(35), log()], ['passed']],
  ['no log', loggedCrash, [app(35)], ['untested']],
  ['a log of others', loggedCrash, [app(35), log(false)], ['untested']],
  [
    'a log of drills, which tell of crashes themselves',
    loggedCrash,
    [{ ...log(), withoutCrashes: true } as Fact],
    ['untested'],
  ],
  [
    'a crash, a signal, a silence',
    loggedCrash,
    [log(), trouble('crash', { exception: 'a.B' }), trouble('native-crash'), trouble('not-responding')],
    [
      'failed example.app.Cart.total, line 3 a.B',
      'failed example.app.Cart.total, line 3 native-crash',
      'failed example.app.Cart.total, line 3 not-responding',
      'passed',
    ],
  ],
  [
    'warned by a policy',
    mainThreadWork,
    [log(), policy('NetworkViolation')],
    ['failed example.app.Cart.total, line 3 NetworkViolation', 'passed'],
  ],
  [
    'not in its own code',
    mainThreadWork,
    [log(), policy('DiskReadViolation', false)],
    ['cantTell example.app.Cart.total, line 3 DiskReadViolation', 'passed'],
  ],
  ['a policy, and no warning', mainThreadWork, [log(), uses(POLICY)], ['passed']],
  ['no policy, and no warning', mainThreadWork, [log(), uses()], ['untested']],
  ['a log without events', mainThreadWork, [log(true, 9, []), uses(POLICY)], ['untested']],
  [
    'a screen that was not opened',
    mainThreadWork,
    [app(35), log(), uses(POLICY), component(true, 0), other],
    ['passed', 'untested'],
  ],
  [
    'a screen that did not end',
    leftBehind,
    [app(35), log(), component(true, 0), other],
    ['passed', 'untested'],
  ],
  ['each of its screens ended', leftBehind, [app(35), log(), component(true, 0)], ['passed']],
  ['the app did not run', mainThreadWork, [log(false), uses(POLICY)], []],
  ['a crash report alone', mainThreadWork, [log(true, 0), uses(POLICY)], ['untested']],
  [
    'what is left behind is another matter',
    mainThreadWork,
    [log(), uses(POLICY), policy('LeakedClosableViolation')],
    ['passed'],
  ],
  [
    'a receiver',
    leftBehind,
    [log(), trouble('leak', { about: 'Activity a.B has leaked IntentReceiver c.D' })],
    ['failed example.app.Cart.total, line 3 receiver', 'passed'],
  ],
  [
    'a connection',
    leftBehind,
    [log(), trouble('leak', { about: 'Activity a.B has leaked ServiceConnection c.D' })],
    ['failed example.app.Cart.total, line 3 connection', 'passed'],
  ],
  [
    'a file',
    leftBehind,
    [log(), policy('LeakedClosableViolation')],
    ['failed example.app.Cart.total, line 3 open', 'passed'],
  ],
  [
    'screens',
    leftBehind,
    [log(), policy('InstanceCountViolation')],
    ['failed example.app.Cart.total, line 3 instances', 'passed'],
  ],
  ['nothing, in a log of others', leftBehind, [log(false)], []],
  [
    'frames',
    skippedFrames,
    [log(), trouble('skipped-frames', { framesSkipped: 42 })],
    ['failed frames', 'untested'],
  ],
  ['no such line shows little', skippedFrames, [log()], ['untested']],
  [
    'used, and explained',
    permissionUse,
    [app(35, 'ACCESS_FINE_LOCATION'), uses(LOCATION, RATIONALE), listing(16)],
    ['passed'],
  ],
  ['not used', permissionUse, [app(35, 'VIBRATE'), uses()], ['cantTell android.permission.VIBRATE unused']],
  [
    'used by an action',
    permissionUse,
    [app(35, 'CALL_PHONE'), uses('android.intent.action.CALL', RATIONALE)],
    ['passed'],
  ],
  [
    'by any method of a class',
    permissionUse,
    [app(35, 'VIBRATE'), uses('android.os.Vibrator.*')],
    ['passed'],
  ],
  ['native code may use it', permissionUse, [app(35, 'INTERNET'), uses(), native], ['untested']],
  [
    'but no vibrator',
    permissionUse,
    [app(35, 'VIBRATE'), uses(), native],
    ['cantTell android.permission.VIBRATE unused'],
  ],
  [
    'of the app itself',
    permissionUse,
    [app(35, `${aBuild.appId}.DYNAMIC_RECEIVER_NOT_EXPORTED_PERMISSION`), uses()],
    ['passed'],
  ],
  [
    'of a service in front',
    permissionUse,
    [app(35, 'FOREGROUND_SERVICE'), uses(), component(true, 0, ['location'])],
    ['passed'],
  ],
  ['that nobody knows', permissionUse, [app(35, 'com.vendor.launcher.BADGE'), uses()], ['untested']],
  [
    'asked without a word',
    permissionUse,
    [app(35, 'ACCESS_FINE_LOCATION'), uses(LOCATION), listing(16)],
    ['cantTell android.permission.ACCESS_FINE_LOCATION unexplained', 'passed'],
  ],
  [
    'asked by the system when it installs',
    permissionUse,
    [app(22, 'CAMERA'), uses('android.hardware.Camera.open')],
    ['passed'],
  ],
  ['wakes with the device', permissionUse, [app(35, 'RECEIVE_BOOT_COMPLETED'), uses(), waking], ['passed']],
  [
    'and does not',
    permissionUse,
    [app(35, 'RECEIVE_BOOT_COMPLETED'), uses()],
    ['cantTell android.permission.RECEIVE_BOOT_COMPLETED unused'],
  ],
  [
    'for children',
    permissionUse,
    [app(35, 'ACCESS_FINE_LOCATION'), uses(LOCATION, RATIONALE), listing(4)],
    ['cantTell android.permission.ACCESS_FINE_LOCATION age', 'passed'],
  ],
  [
    'nobody says from which age',
    permissionUse,
    [app(35, 'ACCESS_FINE_LOCATION'), uses(LOCATION, RATIONALE), listing()],
    ['passed', 'untested'],
  ],
  ['edges at 35', targetLevel, [app(35), uses()], ['cantTell edges edges']],
  ['edges at 34', targetLevel, [app(34), uses()], ['passed']],
  ['edges kept', targetLevel, [app(35), uses(INSETS)], ['passed']],
  ['back at 36', targetLevel, [app(36), uses(INSETS, '*.onBackPressed')], ['cantTell back back']],
  ['back at 35', targetLevel, [app(35), uses(INSETS, '*.onBackPressed')], ['passed']],
  [
    'back in both ways',
    targetLevel,
    [app(36), uses(INSETS, '*.onBackPressed', 'androidx.activity.OnBackPressedDispatcher.addCallback')],
    ['passed'],
  ],
  ['an exact alarm without leave', targetLevel, [app(31), uses(EXACT)], ['cantTell alarms alarms']],
  [
    'an exact alarm, not asked',
    targetLevel,
    [app(33, 'SCHEDULE_EXACT_ALARM'), uses(EXACT)],
    ['cantTell alarms alarms'],
  ],
  [
    'an exact alarm, asked',
    targetLevel,
    [app(33, 'SCHEDULE_EXACT_ALARM'), uses(EXACT, 'android.app.AlarmManager.canScheduleExactAlarms')],
    ['passed'],
  ],
  ['an alarm clock', targetLevel, [app(33, 'USE_EXACT_ALARM'), uses(EXACT)], ['passed']],
  ['pictures at 33', targetLevel, [app(33, 'READ_EXTERNAL_STORAGE'), uses()], ['cantTell media media']],
  ['pictures at 32', targetLevel, [app(32, 'READ_EXTERNAL_STORAGE'), uses()], ['passed']],
  [
    'pictures by name',
    targetLevel,
    [app(33, 'READ_EXTERNAL_STORAGE', 'READ_MEDIA_IMAGES'), uses()],
    ['passed'],
  ],
  [
    'open or not is not said',
    targetLevel,
    [app(31), uses(), component('unset', 1)],
    ['failed example.app.Main exported'],
  ],
  ['and need not be without a filter', targetLevel, [app(31), uses(), component('unset', 0)], ['passed']],
  [
    'the mapping of this build',
    keptSymbols,
    [app(35), ids('mapping', 'code', 'abc'), symbols('mapping', 'm.txt', 'abc')],
    ['passed'],
  ],
  [
    'of another',
    keptSymbols,
    [app(35), ids('mapping', 'code', 'abc'), symbols('mapping', 'm.txt', 'abd')],
    ['failed code'],
  ],
  ['none', keptSymbols, [app(35), ids('mapping', 'code', 'abc')], ['untested']],
  [
    'one without an id',
    keptSymbols,
    [app(35), ids('mapping', 'code', 'abc'), symbols('mapping', 'm.txt', '')],
    ['untested'],
  ],
  ['code that nobody renamed', keptSymbols, [app(35)], []],
  [
    'the dSYM of this build',
    keptSymbols,
    [app(35), ids('dsym', 'Tide', 'aa'), symbols('dsym', 'Tide.app.dSYM', '', 'arm64 aa')],
    ['passed'],
  ],
  [
    'of another build',
    keptSymbols,
    [app(35), ids('dsym', 'Tide', 'aa'), symbols('dsym', 'Tide.app.dSYM', '', 'arm64 bb')],
    ['failed Tide'],
  ],
  [
    'of another part',
    keptSymbols,
    [app(35), ids('dsym', 'Tide', 'aa'), symbols('dsym', 'Core.framework.dSYM', '', 'arm64 bb')],
    ['untested'],
  ],
  ...(
    [
      [false, ['passed']],
      [true, ['passed']],
      ['YES', ['failed ITSAppUsesNonExemptEncryption']],
      [undefined, ['failed ITSAppUsesNonExemptEncryption']],
    ] as [boolean | string | undefined, string[]][]
  ).map(([value, found]): [string, Check, Fact[], string[]] => [
    `encryption: ${value}`,
    exportKey,
    [app(35), { kind: 'export-key', ...of, ...(value !== undefined && { value }) }],
    found,
  ]),
])('%s', (_, check, facts, found) => {
  expect(told(check, facts)).toEqual(found);
});
