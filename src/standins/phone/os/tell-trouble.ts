/** What the platform writes into its log about an app that is slow or leaves things behind (Android Open Source Project: `StrictMode`, `WindowManagerGlobal`, `LoadedApk`). */
import type { PhoneApp, ScreenState } from '../app-model.ts';
import type { DeviceLog } from './device-log.ts';

/** An instance of an activity that ends. */
interface Ended {
  screen: string;
  /** Full class name. */
  className: string;
  state?: ScreenState;
  receivers?: ReadonlyMap<string, readonly string[]>;
}

/** @param frames the app's own, innermost first */
export function tellSlowRead(log: DeviceLog, pid: number, ms: number, frames: readonly string[]): void {
  const lines = [
    `StrictMode policy violation; ~duration=${ms} ms: android.os.strictmode.DiskReadViolation`,
    ...stack([
      'android.os.StrictMode$AndroidBlockGuardPolicy.onReadFromDisk(StrictMode.java:1659)',
      'libcore.io.BlockGuardOs.open(BlockGuardOs.java:254)',
      'java.io.FileInputStream.<init>(FileInputStream.java:160)',
      ...frames,
    ]),
  ];
  for (const line of lines) log.write('main', pid, 'D', 'StrictMode', line);
}

/** An instance ends: its receivers that nobody has taken back, and a dialog that its own code still shows. */
export function tellLeft(
  log: DeviceLog,
  pid: number,
  { screens }: PhoneApp,
  { className, receivers = new Map(), screen, state = {} }: Ended,
): void {
  const { dialog } = screens[screen]!;
  if (dialog?.shownIn && state[dialog.value] !== undefined) {
    const window = `DecorView@${token(pid, className)}[${className.split('.').at(-1)}]`;
    const lines = [
      `android.view.WindowLeaked: Activity ${className} has leaked window ${window} that was originally added here`,
      ...stack([
        'android.view.ViewRootImpl.<init>(ViewRootImpl.java:1067)',
        'android.view.WindowManagerGlobal.addView(WindowManagerGlobal.java:435)',
        'android.app.Dialog.show(Dialog.java:352)',
        ...dialog.shownIn,
      ]),
    ];
    for (const line of lines) log.write('main', pid, 'E', 'WindowManager', line);
  }
  for (const [receiver, frames] of receivers) {
    const lines = [
      `Activity ${className} has leaked IntentReceiver ${receiver}@${token(pid, receiver)} that was originally registered here. Are you missing a call to unregisterReceiver()?`,
      ...stack([
        'android.app.LoadedApk$ReceiverDispatcher.<init>(LoadedApk.java:1817)',
        'android.content.ContextWrapper.registerReceiver(ContextWrapper.java:755)',
        ...frames,
      ]),
    ];
    for (const line of lines) log.write('main', pid, 'E', 'ActivityThread', line);
  }
}

const stack = (frames: readonly string[]): string[] => frames.map((frame) => `\tat ${frame}`);

/** An object's address, which differs from process to process. */
const token = (pid: number, name: string): string => ((pid * 2654435761 + name.length) >>> 8).toString(16);
