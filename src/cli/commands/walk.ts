import { judgeKeyboardWalk } from '../../core/areas/accessibility/keyboard-walk.ts';
import type { UnseenScore } from '../../core/areas/accessibility/unseen-walk.ts';
import { walkView } from '../../core/reports/walk-view.ts';
import { appInFront } from '../../device/in-hand/app-in-front.ts';
import { walkByKeyboard } from '../../device/in-hand/walk-by-keyboard.ts';
import { OutOfReach } from '../../device/out-of-reach.ts';
import type { AddCommand } from '../command-table.ts';
import { exitCode } from '../exit-code.ts';
import { progress, UsageError } from '../io.ts';
import { styleFor } from '../style.ts';
import { type DeviceCall, onDevice, withDevice } from './device-options.ts';
import { wholeNumber } from './options.ts';
import { formatScore, walkUnseen } from './walk/unseen.ts';

interface WalkCall extends DeviceCall {
  app?: string;
  most?: number;
  json?: boolean;
}

/** `fenlok walk`: the screen in front as somebody meets it who cannot touch it, or cannot see it. */
export const walkCommand: AddCommand = (command, { io, finish }) => {
  withDevice(command)
    .argument(
      '<by>',
      'keyboard: by Tab, and by the arrows where Tab goes nowhere; unseen: by what is said alone, with a key for each move',
    )
    .option('--app <id>', 'the app that must be in front')
    .option('--most <presses>', 'by keyboard: give up after so many presses of Tab', wholeNumber, 200)
    .option('--json', 'print as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok walk keyboard\n  fenlok walk unseen       (look away from the phone)\n\nBy keyboard, keys only move the focus: nothing is activated, and the screen stays.\nExit codes: 0 all is reached and shows, 1 something is wrong, 4 not everything could be told, 5 no phone, or another call drives it',
    )
    .action(async (by: string, call: WalkCall) => {
      if (by !== 'keyboard' && by !== 'unseen') throw new UsageError(`walk ${by}: say keyboard or unseen`);
      finish(
        await onDevice(call, io, async (device, stateFolder) => {
          const { build } = await appInFront(device, call.app);
          const { locale } = await device.settingsNow(build.appId);
          if (by === 'unseen') {
            const score = await walkUnseen(
              device,
              locale,
              (line) => (call.json ? io.err : io.out)(`${line}\n`),
              io,
            );
            io.out(call.json ? `${JSON.stringify(forMachines(score), null, 2)}\n` : formatScore(score));
            return score.screens.some(({ silent }) => silent.size > 0) ? exitCode.blocked : exitCode.done;
          }
          const why = device.whyNot('keyboard');
          if (why) throw new OutOfReach('refused', `${device.serial}: ${why}`);
          const walk = await walkByKeyboard(device, {
            stateFolder,
            appId: build.appId,
            locale,
            signal: io.signal,
            mostSteps: call.most,
            onStep: progress(io, 'presses of Tab'),
          });
          const seen = judgeKeyboardWalk(walk);
          if (call.json)
            io.out(
              `${JSON.stringify({ device: device.serial, app: build.appId, ended: walk.ended, steps: walk.steps, ...seen }, null, 2)}\n`,
            );
          else
            io.out(
              `${walkView(`By keyboard on ${build.appId}`, walk, seen, { style: styleFor(io), widthColumns: io.columns })}\n`,
            );
          if (seen.findings.some(({ basis }) => basis === 'measured')) return exitCode.blocked;
          const isWhole = walk.ended !== 'given-up' && seen.untold === 0 && seen.findings.length === 0;
          return isWhole ? exitCode.done : exitCode.open;
        }),
      );
    });
};

const forMachines = ({ screens, ...score }: UnseenScore) => ({
  ...score,
  screens: screens.map(({ heard, silent, stops, title }) => ({
    title,
    heard: heard.size,
    of: stops,
    silent: [...silent],
  })),
});
