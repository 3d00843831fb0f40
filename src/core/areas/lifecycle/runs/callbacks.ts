/**
 * What the system's own log reports of activities: their callbacks, in order. Tags of the events buffer from the platform's
 * EventLogTags.logtags: `wm_on_*_called` from Android 11 on, `am_on_*_called` before (create, start, restart and destroy from 9,
 * `am_destroy_activity` also before).
 */

/** By the name that Android 11 and later give it. */
export const lifecycleTag = (tag: string): string =>
  tag.replace(/^am_(on_\w+_called|destroy_activity|relaunch\w*)$/, 'wm_$1');

export interface Callback {
  /** Without its package: `BookingActivity`. */
  activity: string;
  /** `paused`, `stop`, `destroy`, `create`, `start`, `resume`; as the log has it. */
  name: string;
}

/** @param log lines of the app, as the device gave them */
export function callbacksIn(log: readonly { tag: string; message: string }[]): Callback[] {
  return log.flatMap(({ message, tag }) => {
    const name = /^wm_on_(\w+)_called$/.exec(lifecycleTag(tag))?.[1];
    // `[token,class,reason]`
    const className = message.replace(/^\[|\]$/g, '').split(',')[1];
    return name && className ? [{ activity: className.split(/[./]/).at(-1)!, name }] : [];
  });
}
