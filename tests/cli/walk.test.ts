/** `fenlok walk keyboard` on the stand-in phone: what is planted on a screen, wherever it is, is found there and nothing else. */
import { join } from 'node:path';
import fc from 'fast-check';
import { judgeKeyboardWalk } from '../../src/core/areas/accessibility/keyboard-walk.ts';
import type { Element, PhoneApp } from '../../src/standins/phone/app-model.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import { adb, goByThumb } from '../support/by-thumb.ts';
import { fenlok } from '../support/command.ts';
import { screenOf } from '../support/drill-bench.ts';
import { describeWith, scratchFolder } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';
import { openTerminal, testInTerminal } from '../support/terminal.ts';

const scratch = scratchFolder();
const env = { FENLOK_STATE: join(scratch, 'state') };
const APP = 'example.kelpline/.TimetableActivity';

type Plant = Pick<Element, 'takesKeys' | 'focusHighlight' | 'focusable'>;
const PLANTS: Record<string, Plant> = {
  trap: { takesKeys: true },
  'unseen-focus': { focusHighlight: false },
  unreached: { focusable: false },
};

/** The app with something planted on every element that has the id. */
function planted(app: PhoneApp, id: string, plant: Plant): PhoneApp {
  const change = (element: Element): Element => {
    const inside = element.kind === 'box' ? { ...element, children: element.children.map(change) } : element;
    return element.id === id ? { ...inside, ...plant } : inside;
  };
  const screens = Object.entries(app.screens).map(([name, screen]): [string, PhoneApp['screens'][string]] => [
    name,
    { ...screen, view: (context, state) => change(screen.view(context, state)) },
  ]);
  return { ...app, screens: Object.fromEntries(screens) };
}

// Of each screen, what occurs on it once.
const ONCE: Record<string, string[]> = {
  timetable: ['from_harbour', 'swap_direction', 'nav_alerts'],
  sailing: ['back', 'book', 'add_alert'],
  booking: ['name_field', 'bike_toggle', 'pay'],
  pass: ['plan_year', 'continue', 'restore'],
  settings: ['setting_language', 'offline_toggle', 'help'],
};

describeWith('adb')('by keyboard', () => {
  async function walkOf(app: PhoneApp, screen: string, ...more: string[]) {
    const phone = await bootPhone({ apps: [app] });
    try {
      await adb(phone.address, 'connect', phone.address);
      await goByThumb(phone.address, APP, screenOf(screen).reach ?? []);
      const args = ['walk', 'keyboard', '--device', phone.address, ...more];
      return await fenlok(args, scratch, env);
    } finally {
      await phone.close();
    }
  }

  test.each(Object.keys(ONCE))('%s as it is: all is reached, and shows', async (screen) => {
    const { code, out } = await walkOf(kelpline, screen, '--json');
    const { ended, findings, of, reached, untold } = JSON.parse(out);
    expect({ code, ended, findings, missed: of - reached, untold }).toEqual({
      code: 0,
      ended: 'came-round',
      findings: [],
      missed: 0,
      untold: 0,
    });
  });

  const plants = fc.sample(
    fc
      .constantFrom(...Object.keys(ONCE))
      .chain((screen) =>
        fc.tuple(
          fc.constant(screen),
          fc.constantFrom(...ONCE[screen]!),
          fc.constantFrom(...Object.keys(PLANTS)),
        ),
      ),
    { numRuns: Number(process.env.WALK_PLANTS ?? 9), seed: 3 },
  );
  test.each(plants)('on %s, %s: %s is found, and nothing else', async (screen, id, kind) => {
    const { code, out } = await walkOf(planted(kelpline, id, PLANTS[kind]!), screen, '--json');
    const { findings } = JSON.parse(out);
    expect([
      code,
      findings.map((one: { basis: string; kind: string; key: string }) => [one.kind, one.key, one.basis]),
    ]).toEqual([1, [[kind, id, 'measured']]]);
  });

  test('what was found stands above the way that the focus took', async () => {
    const { out } = await walkOf(planted(kelpline, 'offline_toggle', { takesKeys: true }), 'settings');
    expect(out).toMatch(
      /controls reached by keys, then no key moves the focus any more\n {2}▲ Keep the timetable offline keeps the focus offline_toggle\n.*measured.*2\.1\.2.*The focus goes to\n/s,
    );
  });

  test('on a window that forbids pictures nothing is said of whether the focus shows', async () => {
    const secure = {
      ...kelpline,
      screens: { ...kelpline.screens, sailing: { ...kelpline.screens.sailing!, secure: true } },
    };
    const { code, out } = await walkOf(secure, 'sailing', '--json');
    const { findings, steps, untold } = JSON.parse(out);
    expect([code, findings, untold]).toEqual([4, [], steps.length]);
    expect(steps.length).toBeGreaterThan(2);
  });

  test('after as many presses as are allowed it says so, and calls nothing unreached', async () => {
    const { code, out } = await walkOf(kelpline, 'settings', '--most', '3', '--json');
    expect({ code, ...JSON.parse(out) }).toMatchObject({ code: 4, ended: 'given-up', findings: [] });
  });
});

describeWith('adb')('unseen', () => {
  testInTerminal('a boat is booked by what is said alone; the score tells what was heard', async () => {
    const phone = await bootPhone();
    try {
      await adb(phone.address, 'connect', phone.address);
      await goByThumb(phone.address, APP, []);
      const { ended, press, said, says } = openTerminal(
        ['walk', 'unseen', '--device', phone.address],
        scratch,
        env,
      );
      await says('a screen with 15 stops');
      press('hcccc\rpcc\rbq');
      expect(await ended).toBe(1);
      const spoken = said().replaceAll('\r', '').split('\n');
      expect(spoken.slice(spoken.indexOf('— a screen with 15 stops'))).toEqual([
        '— a screen with 15 stops',
        'The phone does not tell which stops are headings.',
        'From, Skerrin',
        'To, Aldwick Quay',
        '▲ nothing is said here',
        '16:10, 16:52, Heron, 31 seats left, On time',
        '— a screen with 16 stops',
        'That was the first stop.',
        'Back, button',
        'Book this crossing, button',
        '— a screen with 16 stops',
        '— a screen with 16 stops',
        'Heard 6 of 47 stops on 3 screens, with 11 keys; 2 times something was activated.',
        '▲ nothing is said at swap_direction',
        '',
      ]);
    } finally {
      await phone.close();
    }
  });
});

test('a focus that goes up the screen before it has come round is out of order', () => {
  const at = (key: string, y: number) => ({
    key,
    name: key,
    boundsPx: { x: 0, y, width: 100, height: 40 },
    isShown: true,
    by: 'TAB',
  });
  const { findings } = judgeKeyboardWalk({
    steps: [at('title', 0), at('last', 300), at('middle', 100)],
    ended: 'came-round',
    controls: [],
  });
  expect(findings.map(({ basis, key, kind }) => [kind, key, basis])).toEqual([
    ['order', 'middle', 'estimated'],
  ]);
});
