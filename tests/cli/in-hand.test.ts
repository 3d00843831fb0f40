/** With a phone in the hand and no files: an app reached by taps of Debian's bridge client, then asked about. */
import { join } from 'node:path';
import type { Device } from '../../src/device/bridge/device.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { runScreenDrill } from '../../src/device/drills/on-screen/run-screen-drill.ts';
import { allScreenDrills } from '../../src/device/drills/on-screen/screen-drills.ts';
import { openOverrides } from '../../src/device/overrides/setting-overrides.ts';
import type { ServedPhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import { adb, goByThumb } from '../support/by-thumb.ts';
import { fenlok } from '../support/command.ts';
import { classOf, formatClass, kelplineIntent } from '../support/drill-bench.ts';
import { describeWith, scratchFolder } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';

const scratch = scratchFolder();
const env = { FENLOK_STATE: join(scratch, 'state') };
const APP = 'example.kelpline/.TimetableActivity';

describeWith('adb')('with a phone in the hand', () => {
  let phone: ServedPhone;
  let device: Device;
  const here = (...args: string[]) => fenlok([...args, '--device', phone.address], scratch, env);
  const jsonOf = async (...args: string[]) => JSON.parse((await here(...args, '--json')).out);

  beforeAll(async () => {
    phone = await bootPhone();
    device = await openDevice(phone.address, { stateFolder: env.FENLOK_STATE });
    await adb(phone.address, 'connect', phone.address);
  });
  afterAll(async () => {
    await device.close();
    await phone.close();
  });

  test.each(['process-death', 'rotate', 'home-and-return'] as const)(
    '%s from here comes to what the scripted drill comes to, on each screen',
    async (id) => {
      const drill = allScreenDrills.find((one) => one.id === id)!;
      const subject = {
        device,
        app: { appId: 'example.kelpline', component: APP },
        build: { appId: 'example.kelpline', version: '', build: '', code: '' },
        overrides: await openOverrides(env.FENLOK_STATE, device),
        cell: { device: '', locale: 'en', theme: 'light', textScale: 1, orientation: 'portrait' } as const,
      };
      for (const screen of kelplineIntent.screens) {
        const scripted = await classOf(await runScreenDrill(drill, subject, screen));
        await goByThumb(phone.address, APP, [...(screen.reach ?? []), ...screen.change]);
        const { runs } = await jsonOf('drill', id, '--here', '--no-pictures');
        expect([screen.id, formatClass(runs[0].came)]).toEqual([screen.id, formatClass(scripted)]);
      }
    },
  );
});
