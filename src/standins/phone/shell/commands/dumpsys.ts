import type { ActivityRecord, Task } from '../../os/activity-manager.ts';
import { frontWindow } from '../../os/front-window.ts';
import { type Call, lines, type ShellCommand } from '../shell-command.ts';
import { shortComponent } from './am.ts';
import { deviceIdle } from './device-idle.ts';
import { DISPLAY_ID } from './hardware.ts';

/** `dumpsys SERVICE …`: the parts that people read. */
export const dumpsys: ShellCommand = (call) => {
  const [service = '', ...args] = call.args;
  if (service === '-l') {
    call.out(lines('Currently running services:', ...Object.keys(SERVICES).map((name) => `  ${name}`)));
    return 0;
  }
  const run = SERVICES[service];
  if (!run) {
    call.err(`Can't find service: ${service}\n`);
    return 0;
  }
  return run({ ...call, args });
};

const battery: ShellCommand = ({ args, os, out }) => {
  const [verb, key, value] = args;
  if (verb === 'set' && key === 'level') os.battery = { ...os.battery, level: Number(value), isFaked: true };
  else if (verb === 'unplug') os.battery = { ...os.battery, plugged: false, isFaked: true };
  else if (verb === 'reset') os.battery = { level: 82, plugged: true, isFaked: false };
  else
    out(
      lines(
        'Current Battery Service state:',
        ...(os.battery.isFaked ? ["  (UPDATES STOPPED -- use 'reset' to restart)"] : []),
        '  AC powered: false',
        `  USB powered: ${os.battery.plugged}`,
        `  status: ${os.battery.plugged ? 2 : 3}`,
        '  present: true',
        `  level: ${os.battery.level}`,
        '  scale: 100',
      ),
    );
  return 0;
};

const activity: ShellCommand = (call) => {
  const { args, out } = call;
  const [part, appId] = args;
  if (part === 'services')
    out(lines('ACTIVITY MANAGER SERVICES (dumpsys activity services)', ...services(call, appId)));
  else if (part === 'activities' || part === undefined || part === 'a')
    out(lines('ACTIVITY MANAGER ACTIVITIES (dumpsys activity activities)', ...activities(call)));
  else call.err(`Bad activity command, or no activities match: ${part}\n`);
  return 0;
};

function services({ os }: Call, appId: string | undefined): string[] {
  const shown = os.activities.services.filter((service) => !appId || service.appId === appId);
  if (shown.length === 0) return ['  (nothing)'];
  return shown.flatMap(({ appId: owner, className, startedAt, token }) => {
    const process = os.processes.find(owner);
    return [
      `  * ServiceRecord{${token} u0 ${shortComponent(owner, className)} c:${owner}}`,
      `    intent={cmp=${shortComponent(owner, className)}}`,
      `    packageName=${owner}`,
      `    app=${process ? `ProcessRecord{${token} ${process.pid}:${owner}/u0a${process.uid - 10_000}}` : 'null'}`,
      `    createTime=-${((Date.now() - startedAt) / 1000).toFixed(0)}s`,
      '    startRequested=true delayedStop=false stopIfKilled=false callStart=true',
    ];
  });
}

const formatRecord = (task: Task, record: ActivityRecord): string =>
  `ActivityRecord{${record.token} u0 ${shortComponent(task.app.appId, record.className)} t${task.id}}`;

function activities({ os }: Call): string[] {
  const { activities: manager } = os;
  const shown: string[] = ['Display #0 (activities from top to bottom):'];
  for (const task of [...manager.tasks].reverse()) {
    shown.push(
      `  * Task{${task.id.toString(16).padStart(7, '0')} #${task.id} A=${task.app.uid}:${task.app.appId}}`,
    );
    for (const [i, record] of [...task.records.entries()].reverse()) {
      const state = record.lifecycle === 'none' ? 'DESTROYED' : record.lifecycle.toUpperCase();
      shown.push(
        `    * Hist  #${i}: ${formatRecord(task, record)}`,
        `        packageName=${task.app.appId} processName=${task.app.appId}`,
        `        haveState=${record.saved !== undefined} state=${state} finishing=false`,
      );
    }
  }
  const top = manager.shown;
  const name = os.shape.sdk >= 31 ? 'topResumedActivity' : 'mResumedActivity';
  // the system's question is an activity of its own, above the app's
  const above = os.questionAbove;
  if (above) shown.push(`  ${name}=ActivityRecord{9e12c04 u0 ${above} t${manager.front.id}}`);
  else if (top?.lifecycle === 'resumed') shown.push(`  ${name}=${formatRecord(manager.front, top)}`);
  return shown;
}

const window: ShellCommand = async ({ os, out }) => {
  const front = await frontWindow(os);
  const token = os.activities.shown?.token ?? '0000000';
  const focus = front?.title.startsWith(`${front.appId}.`)
    ? `${front.appId}/${front.title}`
    : (front?.title ?? 'null');
  const { shape } = os.display(os.activities.front.app);
  out(
    lines(
      'WINDOW MANAGER DISPLAY CONTENTS (dumpsys window displays)',
      '  Display: mDisplayId=0',
      `    init=${os.shape.widthPx}x${os.shape.heightPx} ${os.shape.densityDpi}dpi cur=${shape.widthPx}x${shape.heightPx}`,
      `  mCurrentFocus=${front ? `Window{${token} u0 ${focus}}` : 'null'}`,
      `  mDreamingLockscreen=${os.isLocked} mAwake=${os.isScreenOn}`,
      `  mCurrentRotation=ROTATION_${os.orientation() === 'landscape' ? 90 : 0}`,
    ),
  );
  return 0;
};

/** The viewport of the display that apps are shown on (AOSP, DisplayViewport.toString). */
const display: ShellCommand = ({ os, out }) => {
  const { shape } = os.display(os.activities.front.app);
  const isSideways = os.orientation() === 'landscape';
  out(
    lines(
      'DISPLAY MANAGER (dumpsys display)',
      `  mViewports=[DisplayViewport{type=INTERNAL, valid=true, isActive=true, displayId=0, uniqueId='local:${DISPLAY_ID}', physicalPort=0, orientation=${Number(isSideways)}, logicalFrame=Rect(0, 0 - ${shape.widthPx}, ${shape.heightPx}), deviceWidth=${os.shape.widthPx}, deviceHeight=${os.shape.heightPx}}]`,
    ),
  );
  return 0;
};

const power: ShellCommand = ({ os, out }) => {
  out(lines('POWER MANAGER (dumpsys power)', `  mWakefulness=${os.isScreenOn ? 'Awake' : 'Asleep'}`));
  return 0;
};

const notification: ShellCommand = ({ args, os, out }) => {
  // without it, the texts are kept back
  const isTold = args.includes('--noredact');
  const said = (text: string) => `String (${isTold ? text : `[length=${text.length}]`})`;
  out(
    lines(
      'Current Notification Manager state:',
      '  Notification List:',
      ...os.messages.notifications
        .list()
        .flatMap(({ actions, appId, channel, id, text, title }) => [
          `    NotificationRecord(0x0${id}a1b2c: pkg=${appId} user=UserHandle{0} id=${id} tag=null importance=3 key=0|${appId}|${id}|null|10123: Notification(channel=${channel} shortcut=null contentView=null vibrate=null sound=null defaults=0x0 flags=0x10 color=0x00000000 actions=${actions.length} vis=PRIVATE))`,
          '      extras={',
          `          android.title=${said(title)}`,
          `          android.text=${said(text)}`,
          '      }',
          ...(actions.length > 0
            ? [
                '      actions={',
                ...actions.map(({ label }, i) => `        [${i}] "${label}" -> PendingIntent{${i}}`),
                '      }',
              ]
            : []),
        ]),
      '  Ranking Config:',
      ...os.messages.notifications
        .apps()
        .flatMap(([appId, channels]) => [
          `      AppSettings: ${appId} (10123) importance=DEFAULT`,
          ...[...channels].map(
            ([id, name]) =>
              `        NotificationChannel{mId='${id}', mName=${isTold ? name : `${name.slice(0, 2)}…`}, mDescription=, mImportance=3, mBypassDnd=false, mLockscreenVisibility=-1000}`,
          ),
        ]),
    ),
  );
  return 0;
};

const packageInfo: ShellCommand = ({ args: [appId = ''], err, os, out }) => {
  const app = os.packages.get(appId);
  if (!app) {
    err(`Unable to find package: ${appId}\n`);
    return 0;
  }
  const { build, version } = app.opened.app.build;
  const { manifest } = app.opened.app.android!;
  const say = (at: number) => new Date(at).toISOString().slice(0, 19).replace('T', ' ');
  out(
    lines(
      'Packages:',
      `  Package [${appId}] (${app.uid.toString(16)}):`,
      `    userId=${app.uid}`,
      `    codePath=${app.apkPath.replace(/\/base\.apk$/, '')}`,
      `    versionCode=${build} minSdk=${manifest.minSdk ?? 1} targetSdk=${manifest.targetSdk ?? manifest.minSdk ?? 1}`,
      `    versionName=${version}`,
      `    firstInstallTime=${say(app.firstInstallAt)}`,
      `    lastUpdateTime=${say(app.updatedAt)}`,
      '    requested permissions:',
      ...app.opened.app.permissions.map((name) => `      ${name}`),
      '    runtime permissions:',
      ...app.opened.app.permissions.map((name) => `      ${name}: granted=${app.granted.has(name)}`),
    ),
  );
  return 0;
};

const SERVICES: Record<string, ShellCommand> = {
  activity,
  battery,
  display,
  deviceidle: deviceIdle,
  notification,
  package: packageInfo,
  power,
  window,
};
