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
    default: {
      const run = verb === undefined ? undefined : OTHERS[verb];
      if (run) return run({ ...call, args });
      return usage(call, verb === undefined ? 'No command' : `Unknown command: ${verb}`);
    }
  }
};

/** What people ask besides, working or refusing as on a user's build. */
const OTHERS: Readonly<Record<string, ShellCommand>> = {
  'get-current-user': ({ out }) => say(out, '0'),
  'get-started-user-state': ({ out }) => say(out, 'RUNNING_UNLOCKED'),
  'get-config': ({ os, out }) =>
    say(out, `config: mcc310-mnc260-${os.systemLocale.toLowerCase()}`, 'abi: arm64-v8a'),
  broadcast: (call) => {
    const intent = readIntent(call.args);
    const isProtected =
      /^android\.intent\.action\.(BOOT_COMPLETED|BATTERY_LOW|AIRPLANE_MODE|PACKAGE_ADDED|LOCALE_CHANGED)$/.test(
        intent.action ?? '',
      );
    if (isProtected)
      return denied(
        call,
        `Permission Denial: not allowed to send broadcast ${intent.action} from pid=${call.os.processes.systemPid}, uid=2000`,
      );
    call.out(`Broadcasting: ${formatIntent(intent)}\n`);
    // what the code of a receiver does is nothing that the stand-in knows
    return say(call.out, 'Broadcast completed: result=0');
  },
  'start-service': (call) => startService(call, false),
  startservice: (call) => startService(call, false),
  'start-foreground-service': (call) => startService(call, true),
  startforegroundservice: (call) => startService(call, true),
  'stop-service': (call) => stopService(call),
  stopservice: (call) => stopService(call),
  instrument: (call) => {
    const component = call.args.find((arg) => arg.includes('/')) ?? '';
    call.err(lines(`android.util.AndroidException: INSTRUMENTATION_FAILED: ${component}`));
    call.out(
      lines(
        'INSTRUMENTATION_STATUS: id=ActivityManagerService',
        `INSTRUMENTATION_STATUS: Error=Unable to find instrumentation info for: ComponentInfo{${component}}`,
        'INSTRUMENTATION_STATUS_CODE: -1',
      ),
    );
    return 1;
  },
  crash: ({ args: [appId = ''], os }) => {
    const process = os.processes.find(appId) ?? os.processes.get(Number(appId));
    if (process) os.activities.crashByShell(process);
    return 0;
  },
  'send-trim-memory': (call) => {
    const { rest } = splitOptions(call.args, ['--user']);
    if (call.os.processes.find(rest[0] ?? '') || call.os.processes.get(Number(rest[0]))) return 0;
    call.err(`Error: Unknown process: ${rest[0] ?? ''}\n`);
    return 255;
  },
  'set-debug-app': () => 0,
  'clear-debug-app': () => 0,
  'idle-maintenance': () => 0,
  'make-uid-idle': () => 0,
  'set-inactive': () => 0,
  'get-inactive': ({ out }) => say(out, 'Idle=false'),
  'set-standby-bucket': () => 0,
  'get-standby-bucket': ({ out }) => say(out, '10'),
  'wait-for-broadcast-idle': ({ out }) => say(out, 'All broadcast queues are idle!'),
  stack: (call) =>
    call.args[0] === 'list' ? listTasks(call) : usage(call, `unknown command '${call.args[0] ?? ''}'`),
  task: (call) =>
    ['lock', 'resizeable', 'focus', 'size'].includes(call.args[0] ?? '')
      ? 0
      : usage(call, `unknown command '${call.args[0] ?? ''}'`),
  'to-uri': (call) => say(call.out, readIntent(call.args).data ?? '#Intent;end'),
  'to-intent-uri': (call) => {
    const { action, appId, categories, className } = readIntent(call.args);
    const parts = [
      action && `action=${action}`,
      ...categories.map((one) => `category=${one}`),
      className && `component=${shortComponent(appId!, className)}`,
    ];
    return say(
      call.out,
      `intent:#Intent;${parts
        .filter(Boolean)
        .map((one) => `${one};`)
        .join('')}end`,
    );
  },
  dumpheap: (call) => denied(call, `Process not debuggable: ${call.args[0] ?? ''}`),
  profile: (call) => denied(call, `Process not debuggable: ${call.args.at(-2) ?? ''}`),
  restart: (call) => denied(call, 'Permission Denial: requires android.permission.SET_ACTIVITY_WATCHER'),
  'switch-user': (call) =>
    denied(call, 'Permission Denial: switchUser() requires android.permission.INTERACT_ACROSS_USERS_FULL'),
  'bug-report': ({ out }) => say(out, 'Your lovely bug report is being created; please be patient.'),
  hang: (call) => denied(call, 'Permission Denial: requires android.permission.SET_ACTIVITY_WATCHER'),
};

function say(out: Call['out'], ...all: string[]): number {
  out(lines(...all));
  return 0;
}

function denied({ err }: Call, why: string): number {
  err(lines('', 'Exception occurred while executing:', `java.lang.SecurityException: ${why}`));
  return 255;
}

function startService(call: Call, isForeground: boolean): number {
  const intent = readIntent(call.args);
  const app = call.os.packages.get(intent.appId ?? '');
  const component = app?.opened.app.android?.manifest.components.find(
    ({ name, type }) => type === 'service' && name === intent.className,
  );
  call.out(`Starting service: ${formatIntent(intent)}\n`);
  if (!app || !component) {
    call.err('Error: Not found; no service started.\n');
    return 1;
  }
  if (component.exported !== true) {
    call.err(`Error: Requires permission not exported from uid ${app.uid}\n`);
    return 1;
  }
  if (!call.os.processes.find(app.appId) && !isForeground) {
    call.err(`Error: app is in background uid null\n`);
    return 1;
  }
  call.os.activities.startService(app.appId, component.name);
  return 0;
}

function stopService(call: Call): number {
  const intent = readIntent(call.args);
  call.out(`Stopping service: ${formatIntent(intent)}\n`);
  return say(
    call.out,
    call.os.activities.stopService(intent.className ?? '')
      ? 'Service stopped'
      : 'Service not stopped: was not running.',
  );
}

function listTasks({ os, out }: Call): number {
  return say(
    out,
    ...[...os.activities.tasks]
      .reverse()
      .flatMap(({ app, id, records }) => [
        `RootTask id=${id} bounds=[0,0][${os.shape.widthPx},${os.shape.heightPx}] displayId=0 userId=0`,
        `  taskId=${id}: ${shortComponent(app.appId, records[0]?.className ?? '')} userId=0 visible=${app === os.activities.front.app}`,
      ]),
  );
}

function usage(call: Call, why: string): number {
  call.err(lines(`Error: ${why}`, 'Activity manager (activity) commands: start, kill, kill-all, force-stop'));
  return 255;
}

const WITH_VALUE = ['-a', '-c', '-d', '-n', '-f', '-t', '-p', '--user', '--display'];

/** What `am` understands of an intent's options. */
function readIntent(given: readonly string[]): Intent {
  const extras: Record<string, string> = {};
  const args = [...given];
  for (let i = args.length - 1; i >= 0; i--)
    if (/^(--es|-e|--ei|--ez|--el|--ef|--eu|--esn)$/.test(args[i]!)) {
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
  return intent;
}

async function start(call: Call): Promise<number> {
  const { options } = splitOptions(call.args, WITH_VALUE);
  const intent = readIntent(call.args);
  call.out(`Starting: ${formatIntent(intent)}\n`);
  const began = Date.now();
  const launching = call.os.start(intent);
  if (!options.has('-W')) {
    // an intent that nobody takes is refused at once; the rest happens on its own
    const early = await Promise.race([launching, new Promise((resolve) => setImmediate(resolve))]);
    return typeof early === 'string' ? refuse(call, intent, early as Refusal) : 0;
  }
  const result = await launching;
  if (typeof result === 'string') return refuse(call, intent, result);
  call.out(formatLaunch(result, Date.now() - began));
  return 0;
}

type Refusal = 'not found' | 'not exported';

function refuse(call: Call, intent: Intent, why: Refusal): number {
  if (why === 'not exported')
    call.err(
      lines(
        "Exception occurred while executing 'start':",
        `java.lang.SecurityException: Permission Denial: starting ${formatIntent(intent)} from null (pid=${call.os.processes.systemPid}, uid=2000) not exported`,
      ),
    );
  else if (intent.className)
    call.err(
      lines('Error type 3', `Error: Activity class {${intent.appId}/${intent.className}} does not exist.`),
    );
  else call.err(`Error: Activity not started, unable to resolve ${formatIntent(intent)}\n`);
  return why === 'not exported' ? 255 : 1;
}

function formatIntent({ action, appId, categories, className, data, extras }: Intent): string {
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

const formatLaunch = ({ appId, className, state, totalMs }: LaunchResult, waitMs: number): string =>
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
