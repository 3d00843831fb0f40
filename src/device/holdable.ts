/** Settings by the names that people give them. */
import type { Device, Held, Holdable } from './device.ts';

/** @throws RangeError */
export const oneOf = (value: string, ...words: string[]): string => {
  if (!words.includes(value)) throw new RangeError(`say ${words.join(', ')}`);
  return value;
};

/** @throws RangeError */
export const numberBetween = (value: string, least: number, most: number, unit: string): string => {
  const number = Number(value);
  if (!(number >= least && number <= most))
    throw new RangeError(`say a number from ${least} to ${most}${unit}`);
  return String(number);
};

export const holdableOf = (device: Device, name: string): Holdable | undefined =>
  device.holdables.find((one) => one.name === name);

/** What a name stands for on this device. @throws RangeError where it is none, or the value is not for it */
export function settingsNamed(device: Device, name: string, value: string, appId = ''): readonly Held[] {
  const holdable = holdableOf(device, name);
  if (!holdable) throw new RangeError(`${device.serial} has no setting ${name}`);
  return holdable.settings(value, { appId, device });
}
