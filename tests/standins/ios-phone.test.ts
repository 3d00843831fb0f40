/** The iOS stand-in as docs/ios.md has it, driven by a client that was written from that page alone. */
import type { ServedLookout } from '../../src/standins/phone/ios/serve-lookout.ts';
import type { TreeNode } from '../../src/standins/phone/ios/tree-of-screen.ts';
import { bootLookout, PlainClient } from '../support/served-lookout.ts';

const APP = 'example.kelpline';
let served: ServedLookout;
let client: PlainClient;

beforeAll(async () => {
  served = await bootLookout('phone');
  client = new PlainClient(served.address);
  const { done } = await client.say('hello', { lookout: 1, token: served.token });
  expect(done).toMatchObject({ lookout: 1, system: '17.4', widthPt: 390, heightPt: 844, scale: 3 });
});
afterAll(async () => {
  client.close();
  await served.close();
});

const done = async (ask: string, fields: object = {}): Promise<Record<string, unknown>> => {
  const said = await client.say(ask, fields);
  expect(said.refused).toBeUndefined();
  return said.done!;
};
const nodes = (tree: TreeNode): TreeNode[] => [tree, ...(tree.children ?? []).flatMap(nodes)];
const look = async () => {
  const { front, owner, tree } = await done('look', { apps: [APP] });
  return { front, owner, all: nodes(tree as TreeNode) };
};
const find = async (identifier: string) => (await look()).all.find((node) => node.identifier === identifier);
const tap = async (identifier: string): Promise<void> => {
  const { frame } = (await find(identifier))!;
  await done('tap', { x: frame.x + frame.width / 2, y: frame.y + frame.height / 2 });
};
const titleOf = async () => (await look()).all.find(({ kind }) => kind === 'navigationBar')?.identifier;
const until = async (isSo: () => Promise<boolean>): Promise<void> => {
  const end = Date.now() + 5_000;
  while (!(await isSo())) if (Date.now() > end) throw new Error('it did not come to be');
};
const stateIs = (wanted: string) => async () => (await done('state', { app: APP })).state === wanted;

test('who says the wrong word, or none, is not let in; the others go on', async () => {
  const stranger = new PlainClient(served.address);
  expect(await stranger.say('state', { app: APP })).toMatchObject({ code: 'hello' });
  expect(await stranger.say('hello', { lookout: 2, token: served.token })).toMatchObject({ code: 'version' });
  expect(await stranger.say('hello', { lookout: 1, token: 'x' })).toMatchObject({ code: 'token' });
  await stranger.closed;
  const noisy = new PlainClient(served.address);
  noisy.raw('no JSON');
  await noisy.closed;
  for (const [ask, fields, code] of [
    ['dance', {}, 'unknown'],
    ['tap', { x: 'left' }, 'unknown'],
    ['bring', { app: 'example.nobody' }, 'no-app'],
    ['write', { app: APP, text: 'x' }, 'no-focus'],
    ['forget', { app: APP, what: 'photos' }, 'not-here'],
  ] as const)
    expect([ask, (await client.say(ask, fields)).code]).toEqual([ask, code]);
});

test('a run has its own language, direction and text size; one that its icon starts has none of them', async () => {
  await done('start', { app: APP });
  const plain = (await find('title'))!.frame;
  const began = async () =>
    ((await done('lines', { from: 0 })).lines as { line: string }[])
      .map(({ line }) => JSON.parse(line))
      .findLast(({ kind }) => kind === 'app.began');
  expect(await began()).toMatchObject({
    kind: 'app.began',
    version: '2.4.0',
    language: 'en',
    contentSize: 'UICTContentSizeCategoryL',
  });
  const size = 'UICTContentSizeCategoryAccessibilityL';
  await done('start', {
    app: APP,
    arguments: ['-AppleLanguages', '("ar")', '-UIPreferredContentSizeCategoryName', size],
  });
  expect(await began()).toMatchObject({ language: 'ar', contentSize: size });
  const large = (await find('title'))!;
  expect(large.frame.height).toBeGreaterThan(plain.height * 1.3);
  // from right to left the title ends where it began
  const { width } = (await look()).all[0]!.frame;
  expect(width - (large.frame.x + large.frame.width)).toBeCloseTo(plain.x, 0);
  await done('start', { app: APP, arguments: ['-NSDoubleLocalizedStrings', 'YES'] });
  expect((await find('title'))!.label).toBe('Timetable Timetable');
  await done('end', { app: APP });
  await done('bring', { app: APP });
  expect((await find('title'))!.label).toBe('Timetable');
});

test('what is kept of a scene comes back after the process ended, and not after the card was thrown away', async () => {
  await done('throw-away', { app: APP });
  await done('start', { app: APP });
  await tap('sailing_row');
  await tap('book');
  await tap('passengers_plus');
  expect((await find('passengers_count'))!.label).toBe('3 passengers');
  await done('home');
  await until(stateIs('suspended'));
  await done('end', { app: APP });
  await until(stateIs('not-running'));
  await done('bring', { app: APP });
  expect([await titleOf(), (await find('passengers_count'))!.label]).toEqual([
    'Book a crossing',
    '3 passengers',
  ]);
  // back by the edge, to what lay beneath
  await done('drag', { from: { x: 2, y: 400 }, to: { x: 350, y: 400 }, seconds: 0.2 });
  expect(await titleOf()).toBe('Sailing');
  await done('throw-away', { app: APP });
  await done('bring', { app: APP });
  expect(await titleOf()).toBe('Timetable');
});

test('links: to the app that the site names, by its scheme, and otherwise to the browser', async () => {
  await done('start', { app: APP });
  const opened = async (url: string) => (await done('open', { url })).front;
  expect([await opened('https://kelpline.example/pass'), await titleOf()]).toEqual([APP, 'Harbour pass']);
  expect(await opened('kelpline://tickets')).toBe(APP);
  expect(await titleOf()).toBe('My tickets');
  expect(await opened('https://other.example/')).toBe('com.apple.mobilesafari');
  expect(await look()).toMatchObject({ front: '', owner: 'com.apple.springboard' });
  const { front } = await done('look', { apps: ['com.apple.mobilesafari'] });
  expect(front).toBe('com.apple.mobilesafari');
});

test('appearance, orientation, the shade, a question: what is on top owns the window', async () => {
  await done('throw-away', { app: APP });
  await done('start', { app: APP });
  expect([await done('appearance', { to: 'dark' }), await done('appearance')]).toEqual([
    { is: 'dark' },
    { is: 'dark' },
  ]);
  await done('turn', { to: 'landscape' });
  const { all } = await look();
  expect(all[0]!.frame).toMatchObject({ width: 844 });
  await done('turn', { to: 'portrait' });
  await done('appearance', { to: 'light' });
  await done('shade', { open: true });
  expect(await look()).toMatchObject({ front: APP, owner: 'com.apple.springboard' });
  await done('shade', { open: false });
  await tap('nav_settings');
  await tap('setting_push');
  expect(await look()).toMatchObject({ front: APP, owner: 'com.apple.springboard' });
  expect(await done('answer', { allow: false })).toEqual({ asked: true });
  expect(await done('answer', { allow: true })).toEqual({ asked: false });
  expect(await look()).toMatchObject({ owner: APP });
});

test('an app tells without a hello; what is long ago is dropped, and counted', async () => {
  const { next } = await done('lines', { from: 0 });
  const app = new PlainClient(served.address);
  for (let n = 0; n < 10_005; n++) app.raw(JSON.stringify({ ask: 'tell', app: APP, line: `{"n":${n}}` }));
  await until(
    async () => (await done('lines', { from: Number(next) + 10_004 })).next === Number(next) + 10_005,
  );
  const { lines } = await done('lines', { from: 0 });
  expect(lines).toHaveLength(10_000);
  const { lines: last } = await done('lines', { from: Number(next) + 10_003 });
  expect((last as { line: string }[]).map(({ line }) => line)).toEqual(['{"n":10003}', '{"n":10004}']);
  app.close();
});
