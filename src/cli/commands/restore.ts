import { restorePhone } from '../../device/overrides/restore-left.ts';
import type { AddCommand } from '../command-table.ts';
import { exitCode } from '../exit-code.ts';
import { type DeviceCall, onDevice, withDevice } from './device-options.ts';
import { formatPutBack } from './drill/format-results.ts';
import { formatHold } from './hold.ts';

/** `fenlok restore`: what killed calls left changed on a phone. */
export const restoreCommand: AddCommand = (command, { io, finish }) => {
  withDevice(command)
    .option('--force', 'also what a call that still runs holds')
    .option('--json', 'print as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok restore\n\nExit codes: 0 every setting reads as it was, 4 one does not, 5 no phone',
    )
    .action(async (call: DeviceCall & { force?: boolean; json?: boolean }) => {
      await onDevice(call, io, async (device, stateFolder) => {
        const { held, putBack } = await restorePhone(device, stateFolder, { force: call.force ?? false });
        if (call.json) io.out(`${JSON.stringify({ device: device.serial, putBack, held }, null, 2)}\n`);
        else {
          for (const line of formatPutBack(putBack)) io.out(`${device.serial}: ${line}\n`);
          if (putBack.length === 0 && held.length === 0)
            io.out(`${device.serial}: no setting is left changed\n`);
          for (const hold of held) io.out(`Still held (end that call, or --force): ${formatHold(hold)}\n`);
        }
        finish(putBack.every(({ now, was }) => now === was) ? exitCode.done : exitCode.open);
      });
    });
};
