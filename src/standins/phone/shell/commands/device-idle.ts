import type { ShellCommand } from '../shell-command.ts';

/** `dumpsys deviceidle` and `cmd deviceidle`: deep idle mode, forced and left again (developer.android.com, *Test your app with Doze*). */
export const deviceIdle: ShellCommand = ({ args: [verb, part], err, os, out }) => {
  const state = () => (os.messages.dozes ? 'IDLE' : 'ACTIVE');
  if (verb === 'force-idle') {
    os.messages.doze(true);
    out('Now forced in to deep idle mode\n');
  } else if (verb === 'unforce' || verb === 'motion') {
    os.messages.doze(false);
    out(`Light state: ${state()}, deep state: ${state()}\n`);
  } else if (verb === 'get' && ['deep', 'light'].includes(part ?? '')) out(`${state()}\n`);
  else if (verb === undefined) out(`  mState=${state()}\n  mLightState=${state()}\n`);
  else {
    err(`Unknown option: ${verb}\n`);
    return 255;
  }
  return 0;
};
