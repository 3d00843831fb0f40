/** Opens a phone by its name, whichever way it is reached: `ios:HOST:PORT` through a lookout, everything else over the bridge. */
import type { BridgeOptions } from './bridge/open-device.ts';
import { listDevices, openDevice } from './bridge/open-device.ts';
import type { Device } from './device.ts';
import { openLookout } from './ios/ios-device.ts';
import { listLookouts } from './ios/known-lookouts.ts';
import { OutOfReach } from './out-of-reach.ts';

export interface PhoneOptions extends BridgeOptions {
  /** Of a lookout that this computer does not know. */
  lookoutToken?: string | undefined;
}

const LOOKOUT = /^ios:(.+:\d{1,5})$/;

/**
 * Without a name the only one that there is.
 *
 * @throws OutOfReach
 */
export async function openPhone(
  name: string | undefined,
  options: PhoneOptions,
  through?: 'direct' | 'server',
): Promise<Device> {
  if (name === undefined) {
    const lookouts = await listLookouts(options.stateFolder);
    if (lookouts.length === 0) return openDevice(undefined, options);
    // nobody needs a bridge who has only lookouts
    const attached = await listDevices(options).catch(() => []);
    const names = [
      ...attached.map(({ serial }) => serial),
      ...lookouts.map(({ address }) => `ios:${address}`),
    ];
    if (names.length > 1)
      throw new OutOfReach('unknown', `several devices are there: ${names.join(', ')}. Choose with --device`);
    return openPhone(names[0], options, through);
  }
  const address = LOOKOUT.exec(name)?.[1];
  if (address === undefined) return openDevice(name, options, through);
  const known = (await listLookouts(options.stateFolder)).find((one) => one.address === address);
  const token = options.lookoutToken ?? known?.token;
  if (token === undefined)
    throw new OutOfReach(
      'unauthorised',
      `nobody knows the token of the lookout at ${address}. Give the one that your UI test was started with: FENLOK_LOOKOUT_TOKEN. Known here: ${(await listLookouts(options.stateFolder)).map((one) => `ios:${one.address}`).join(', ') || 'none'}`,
    );
  return openLookout(address, token);
}
