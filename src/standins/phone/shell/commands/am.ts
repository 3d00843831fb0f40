import type { LaunchResult } from '../../os/activity-manager.ts';
import type { Intent } from '../../os/intent-filters.ts';
import { type Call, lines, type ShellCommand, splitOptions } from '../shell-command.ts';

/** `am`: activities, processes. */
export const am: ShellCommand = async (call) => {
  const [verb, ...args] = call.args;
  const { activities, packages } = call.os;
  switch (verb) {
    case 'start':
    case 'start-activity':
      return start({ ...call, args });
    case 'kill': {
      const appId = splitOptions(args, ['--user']).rest[0];
      if (!appId) return usage(call, 'Package name expected');
      activities.killBackground(appId);
      return 0;
    }
    case 'kill-all':
      for (const { appId } of packages.all()) activities.killBackground(appId);
      return 0;
    case 'force-stop': {
      const appId = splitOptions(args, ['--user']).rest[0];
      if (!appId) return usage(call, 'Package name expected');
      activities.forceStop(appId);
      return 0;
    }
    case 'get-current-user':
      call.out('0\n');
      return 0;
    default:
      return usage(call, verb === undefined ? 'No command' : `Unknown command: ${verb}`);
  }
};

function usage(call: Call, why: string): number {
  call.err(lines(`Error: ${why}`, 'Activity manager (activity) commands: start, kill, kill-all, force-stop'));
  return 255;
}

const WITH_VALUE = ['-a', '-c', '-d', '-n', '-f', '-t', '-p', '--user', '--display'];

async function start(call: Call): Promise<number> {
  const extras: Record<string, string> = {};
  const args = [...call.args];
  for (let i = args.length - 1; i >= 0; i--)
    if (/^(--es|-e|--ei|--ez|--el)$/.test(args[i]!)) {
      const [, key = '', value = ''] = args.splice(i, 3);
      extras[key] = value;
    }
  const { options, rest } = splitOptions(args, WITH_VALUE);
  const component = options.get('-n')?.[0];
  const [appId, className = ''] = component?.split('/') ?? [];
  const target = rest[0];
  const intent: Intent = {
    action: options.get('-a')?.[0],
    categories: options.get('-c') ?? [],
    data: options.get('-d')?.[0] ?? (target?.includes(':') ? target : undefined),
    appId: appId ?? options.get('-p')?.[0] ?? (target?.includes(':') ? undefined : target),
    className: component && (className.startsWith('.') ? appId + className : className),
    extras,
  };
  // a bare package is opened as the launcher does
  if (!intent.action && !component && intent.appId) {
    intent.action = 'android.intent.action.MAIN';
    intent.categories.push('android.intent.category.LAUNCHER');
  }
  if (intent.data !== undefined && !intent.action) intent.action = 'android.intent.action.VIEW';
  call.out(`Starting: ${sayIntent(intent)}\n`);
  const began = Date.now();
  const launching = call.os.start(intent);
  if (!options.has('-W')) {
    // an intent that nobody takes is refused at once; the rest happens on its own
    const early = await Promise.race([launching, new Promise((resolve) => setImmediate(resolve))]);
    return typeof early === 'string' ? refuse(call, intent, early as Refusal) : 0;
  }
  const result = await launching;
  if (typeof result === 'string') return refuse(call, intent, result);
  call.out(sayLaunch(result, Date.now() - began));
  return 0;
}

type Refusal = 'not found' | 'not exported';

function refuse(call: Call, intent: Intent, why: Refusal): number {
  if (why === 'not exported')
    call.err(
      lines(
        "Exception occurred while executing 'start':",
        `java.lang.SecurityException: Permission Denial: starting ${sayIntent(intent)} from null (pid=${call.os.processes.systemPid}, uid=2000) not exported`,
      ),
    );
  else if (intent.className)
    call.err(
      lines('Error type 3', `Error: Activity class {${intent.appId}/${intent.className}} does not exist.`),
    );
  else call.err(`Error: Activity not started, unable to resolve ${sayIntent(intent)}\n`);
  return why === 'not exported' ? 255 : 1;
}

function sayIntent({ action, appId, categories, className, data, extras }: Intent): string {
  const parts = [
    action && `act=${action}`,
    categories.length > 0 && `cat=[${categories.join(',')}]`,
    data && `dat=${data}`,
    className ? `cmp=${shortComponent(appId!, className)}` : appId && `pkg=${appId}`,
    Object.keys(extras).length > 0 && '(has extras)',
  ];
  return `Intent { ${parts.filter(Boolean).join(' ')} }`;
}

export const shortComponent = (appId: string, className: string): string =>
  `${appId}/${className.startsWith(`${appId}.`) ? className.slice(appId.length) : className}`;

const sayLaunch = ({ appId, className, state, totalMs }: LaunchResult, waitMs: number): string =>
  lines(
    ...(state === 'UNKNOWN (0)'
      ? ['Warning: Activity not started, intent has been delivered to currently running top-most instance.']
      : []),
    'Status: ok',
    `LaunchState: ${state}`,
    `Activity: ${shortComponent(appId, className)}`,
    `TotalTime: ${totalMs}`,
    `WaitTime: ${waitMs}`,
    'Complete',
  );
