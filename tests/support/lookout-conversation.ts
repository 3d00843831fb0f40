/** What a recorded conversation is made of: the same steps of the driver, for recording and for holding it against the record. */
import type { IosDevice } from '../../src/device/ios/ios-device.ts';
import { findElement, tap } from '../../src/device/phone/perform-step.ts';

/** @returns what the driver made of the answers */
export async function converse(device: IosDevice): Promise<unknown[]> {
  const app = (await device.findApp('example.kelpline'))!;
  const said: unknown[] = [await device.findApp('example.nobody')];
  await device.stop(app);
  await device.setting('launch languages').write('de');
  await device.setting('launch text-size').write('XL');
  await device.launch(app);
  const { activity, owner, tree } = await device.snapshot();
  said.push(activity, owner, findElement(tree, 'title'));
  await tap(device, findElement(tree, 'nav_settings')!);
  said.push((await device.snapshot()).tree.children.length);
  said.push(await device.setting('appearance').read());
  await device.setting('orientation').write('portrait');
  await device.swipe({ x: 375, y: 900 }, { x: 375, y: 300 }, 300);
  await device.press('HOME');
  said.push(await device.front(), await device.kill(app), await device.stateOf(app));
  said.push(await device.openLink('kelpline://tickets'));
  said.push(await device.openShade(), await device.closeShade(), await device.answerQuestion('allow'));
  const { build, version } = await device.versionOf(app.appId);
  said.push([version, build], (await device.checkSettings({ locale: 'fr', textScale: 1 })).wrong);
  return said;
}
