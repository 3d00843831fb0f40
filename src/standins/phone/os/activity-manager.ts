/**
 * Tasks, activities and their lifecycle, as the platform runs them: what is paused, stopped, saved, destroyed and made
 * again, and which lines of the events log report it.
 */
import type { AdRequest } from '../../ads/bid-forms.ts';
import type { PhoneApp, ScreenHost, ScreenModel, ScreenState } from '../app-model.ts';
import type { ShownAd } from '../services/shown-ad.ts';
import type { PhoneShape } from '../shapes.ts';
import type { DeviceLog } from './device-log.ts';
import type { InstalledApp } from './package-manager.ts';
import type { Process, ProcessTable } from './process-table.ts';
import { tellLeft, tellSlowRead } from './tell-trouble.ts';

/** An app that can be in front: installed, or one of the system's own. */
export type RunnableApp = Pick<InstalledApp, 'appId' | 'label' | 'uid' | 'storage'> & { model: PhoneApp };

/** What is kept of an activity while it has no instance. */
interface SavedState {
  values: ScreenState;
  focused?: string;
}

export interface ActivityRecord {
  token: string;
  screen: string;
  /** Full class name. */
  className: string;
  lifecycle: 'none' | 'resumed' | 'paused' | 'stopped';
  extras: ScreenState;
  /** Only while there is an instance of it. */
  state?: ScreenState;
  /** Name of the value that the focused field edits. */
  focused?: string;
  /** What a hardware keyboard has brought into focus. */
  keyFocus?: string;
  saved?: SavedState;
  /** The configuration that its instance was made for. */
  configuration: string;
  /** Receivers that its instance has registered, with the frames that did. */
  receivers?: Map<string, readonly string[]>;
}

export interface Task {
  id: number;
  app: RunnableApp;
  /** The last one is on top. */
  records: ActivityRecord[];
}

export interface ServiceRecord {
  appId: string;
  className: string;
  token: string;
  startedAt: number;
}

export interface LaunchResult {
  state: 'COLD' | 'WARM' | 'HOT' | 'UNKNOWN (0)';
  appId: string;
  className: string;
  totalMs: number;
}

/** What the activity manager asks of the rest of the phone. */
export interface Surroundings {
  shape: PhoneShape;
  log: DeviceLog;
  processes: ProcessTable;
  home: RunnableApp;
  /** Names the present configuration; screens are made again when it changes. */
  configuration(): string;
  /** Whether activities are destroyed as soon as the user leaves them. */
  discards(): boolean;
  /** An activity of the app was stopped. */
  onStop(app: RunnableApp): void;
  isOnline(): boolean;
  hasPermission(appId: string, permission: string): boolean;
  requestPermission(appId: string, permission: string): void;
  registerForPush(appId: string): void;
  store: {
    list(appId: string, products: readonly string[]): void;
    buy(appId: string, product: string, accountToken?: string): void;
    owned(appId: string, isAsked: boolean): void;
  };
  ads: {
    isThere(): boolean;
    load(appId: string, placement: string, request: AdRequest): void;
    show(appId: string, shown: ShownAd): void;
  };
  /** A process of the app begins: before any of its screens. */
  askForRating(appId: string): void;
  onProcess(app: RunnableApp): void;
  /** A second crash within a minute is told to the user. */
  onCrash(app: RunnableApp, isRepeated: boolean): void;
  /** It has not answered to a touch for too long. */
  onHang(app: RunnableApp): void;
}

const REPEATED_MS = 60_000;

export class ActivityManager {
  readonly #on: Surroundings;
  /** The last one is in front. */
  #tasks: Task[] = [];
  #services: ServiceRecord[] = [];
  #timers = new Set<NodeJS.Timeout>();
  #crashedAt = new Map<string, number>();
  /** Apps that were stopped by force, and not opened since. */
  #stopped = new Set<string>();
  #next = 1;
  /** Until then something on the display moves. */
  movesUntil = 0;

  constructor(surroundings: Surroundings) {
    this.#on = surroundings;
    this.#tasks.push(this.#newTask(surroundings.home, 'home'));
    void this.#resume(this.front);
  }

  get front(): Task {
    return this.#tasks.at(-1)!;
  }
  get tasks(): readonly Task[] {
    return this.#tasks;
  }
  get services(): readonly ServiceRecord[] {
    return this.#services;
  }
  /** The activity that the user sees; undefined while its process starts. */
  get shown(): ActivityRecord | undefined {
    const record = this.front.records.at(-1);
    return record?.state && record.lifecycle !== 'none' ? record : undefined;
  }

  close(): void {
    for (const timer of this.#timers) clearTimeout(timer);
  }

  /** By the launcher's own intent: what is there comes to the front as it is; otherwise the first screen opens. */
  async launch(app: RunnableApp, className: string): Promise<LaunchResult> {
    const task = this.#tasks.find((one) => one.app.appId === app.appId);
    if (task) return this.#bringToFront(task);
    return this.start(app, className, {});
  }

  /** Opens an activity on top of its app's task. */
  async start(app: RunnableApp, className: string, extras: ScreenState): Promise<LaunchResult> {
    const screen = screenOf(app.model, className);
    if (!screen) throw new Error(`${app.appId} has no screen for ${className}`);
    let task = this.#tasks.find((one) => one.app.appId === app.appId);
    if (task) task.records.push(this.#newRecord(app, screen, extras));
    else task = this.#newTask(app, screen, extras);
    return this.#bringToFront(task);
  }

  #newTask(app: RunnableApp, screen: string, extras: ScreenState = {}): Task {
    return { id: this.#next++, app, records: [this.#newRecord(app, screen, extras)] };
  }

  #newRecord(app: RunnableApp, screen: string, extras: ScreenState): ActivityRecord {
    return {
      token: this.#token(),
      screen,
      className: `${app.appId}.${app.model.screens[screen]!.activity}`,
      lifecycle: 'none',
      extras,
      configuration: '',
    };
  }

  // looks like the address that the platform prints
  #token = (): string => ((this.#next++ * 2_654_435_761) % 2 ** 28).toString(16).padStart(7, '0');

  async #bringToFront(task: Task): Promise<LaunchResult> {
    const before = this.front;
    this.#stopped.delete(task.app.appId);
    this.#tasks = [...this.#tasks.filter((one) => one !== task), task];
    for (const record of before === task ? task.records.slice(0, -1) : before.records.slice(-1))
      this.#pause(before, record);
    return this.#resume(task);
  }

  home(): void {
    const task = this.#tasks.find(({ app }) => app === this.#on.home)!;
    if (task !== this.front) void this.#bringToFront(task);
  }

  /** The app that was in front before this one, if there is any besides the home screen. */
  previousApp(): Task | undefined {
    return this.#tasks
      .filter(({ app }) => app !== this.#on.home)
      .at(this.front.app === this.#on.home ? -1 : -2);
  }
  switchTo = (task: Task): Promise<LaunchResult> => this.#bringToFront(task);

  back(): void {
    const task = this.front;
    const record = this.shown;
    if (!record || task.app === this.#on.home) return;
    const model = task.app.model.screens[record.screen]!;
    const { dialog } = model;
    if (dialog && record.state![dialog.value] !== undefined) {
      record.state = { ...record.state, [dialog.value]: undefined };
      return;
    }
    if (model.back) this.run(task, record, 'onBackPressed', (host) => model.back!(host));
    else if (task.records.length === 1 && this.#on.shape.rootBack === 'to-background') this.#toBackground();
    else this.#finish(task, record);
  }

  /** What lay beneath it comes to the front: another app, or the home screen. */
  #toBackground(): void {
    const task = this.front;
    const below = this.#tasks.at(-2);
    if (!below || below.app === this.#on.home) {
      this.home();
      return;
    }
    void this.switchTo(below);
    this.#tasks = [task, ...this.#tasks.filter((one) => one !== task)];
  }

  #finish(task: Task, record: ActivityRecord): void {
    const isTop = task.records.at(-1) === record;
    this.#pause(task, record);
    task.records = task.records.filter((one) => one !== record);
    this.#later(this.#on.shape.stopDelayMs, () => this.#destroy(task, record));
    if (task.records.length === 0) {
      this.#tasks = this.#tasks.filter((one) => one !== task);
      if (isTop) void this.#resume(this.front);
    } else if (isTop && task === this.front) void this.#resume(task);
  }

  /** Screen off, or something opaque of the system above: the activity in front is paused and stopped. */
  cover(): void {
    const record = this.front.records.at(-1);
    if (record) this.#pause(this.front, record);
  }
  uncover = (): Promise<LaunchResult> => this.#resume(this.front);

  async #resume(task: Task): Promise<LaunchResult> {
    const began = Date.now();
    const record = task.records.at(-1)!;
    const { shape } = this.#on;
    let state: LaunchResult['state'] = record.state ? 'HOT' : 'WARM';
    if (record.lifecycle === 'resumed') state = 'UNKNOWN (0)';
    if (!this.#processOf(task.app)) {
      state = 'COLD';
      this.#startProcess(task.app, 'next-top-activity', record.className);
      await this.#wait(shape.coldStartMs);
      // something else may have come to the front meanwhile
      if (task !== this.front || task.records.at(-1) !== record)
        return { state, appId: task.app.appId, className: record.className, totalMs: Date.now() - began };
    }
    this.movesUntil = Date.now() + shape.animationMs;
    if (record.lifecycle !== 'resumed') {
      if (record.state && record.configuration !== this.#on.configuration()) this.#forget(task, record, true);
      if (record.state) {
        if (record.lifecycle === 'stopped')
          this.#tell(task, record, 'wm_on_restart_called', 'performRestart');
      } else if (!this.#create(task, record))
        return { state, appId: task.app.appId, className: record.className, totalMs: 0 };
      if (record.lifecycle !== 'paused')
        this.#tell(task, record, 'wm_on_start_called', 'handleStartActivity');
      record.lifecycle = 'resumed';
      this.#tell(task, record, 'wm_on_resume_called', 'RESUME_ACTIVITY');
      const { resumed } = task.app.model.screens[record.screen]!;
      if (resumed) this.run(task, record, 'onResume', resumed);
    }
    return { state, appId: task.app.appId, className: record.className, totalMs: Date.now() - began };
  }

  #startProcess(app: RunnableApp, why: string, component: string): Process {
    const process = this.#on.processes.start(app.appId, app.uid, why, `${app.appId}/${component}`);
    this.#on.onProcess(app);
    return process;
  }

  #processOf = (app: RunnableApp): Process | undefined => this.#on.processes.find(app.appId);

  /** Makes an instance: from what was saved, or as the intent asks. Its app's code may throw, or leave at once. */
  #create(task: Task, record: ActivityRecord): boolean {
    const model = task.app.model.screens[record.screen]!;
    const { saved } = record;
    record.state = { ...model.first, ...record.extras, ...saved?.values };
    record.focused = saved?.focused;
    record.configuration = this.#on.configuration();
    this.#tell(task, record, 'wm_on_create_called', 'performCreate');
    if (
      model.created &&
      !this.run(task, record, 'onCreate', (host) => model.created!(host, saved !== undefined))
    )
      return false;
    return task.records.at(-1) === record;
  }

  #pause(task: Task, record: ActivityRecord): void {
    if (record.lifecycle !== 'resumed') return;
    record.lifecycle = 'paused';
    this.#tell(task, record, 'wm_on_paused_called', 'performPause');
    this.#later(this.#on.shape.stopDelayMs, () => this.#stop(task, record));
  }

  #stop(task: Task, record: ActivityRecord): void {
    if (record.lifecycle !== 'paused') return;
    record.lifecycle = 'stopped';
    record.saved = savedOf(task, record);
    this.#tell(task, record, 'wm_on_stop_called', 'STOP_ACTIVITY_ITEM');
    if (this.#on.discards() && task.app !== this.#on.home) this.#destroy(task, record);
    this.#on.onStop(task.app);
  }

  #destroy(task: Task, record: ActivityRecord): void {
    if (!record.state) return;
    this.#tell(task, record, 'wm_on_destroy_called', 'performDestroy');
    const pid = this.#processOf(task.app)?.pid;
    if (pid !== undefined) tellLeft(this.#on.log, pid, task.app.model, record);
    record.receivers = undefined;
    record.state = undefined;
    record.focused = undefined;
    record.keyFocus = undefined;
    record.lifecycle = 'none';
  }

  /** Puts an instance down for a new one under another configuration; what its retained object holds goes along. */
  #forget(task: Task, record: ActivityRecord, isRelaunch: boolean): void {
    const { retains = [] } = task.app.model.screens[record.screen]!;
    const { values, focused } = savedOf(task, record);
    record.saved = { values: isRelaunch ? { ...values, ...pick(record.state!, retains) } : values, focused };
    if (record.lifecycle === 'resumed') this.#tell(task, record, 'wm_on_paused_called', 'performPause');
    if (record.lifecycle !== 'stopped')
      this.#tell(task, record, 'wm_on_stop_called', 'handleRelaunchActivity');
    this.#destroy(task, record);
  }

  configurationChanged(): void {
    const record = this.shown;
    if (!record || record.configuration === this.#on.configuration()) return;
    const task = this.front;
    const wasResumed = record.lifecycle === 'resumed';
    const component = `${task.app.appId}/${record.className}`;
    this.#on.log.event(this.#on.processes.systemPid, this.#tagged('wm_relaunch_resume_activity'), [
      0,
      record.token,
      task.id,
      component,
    ]);
    this.#forget(task, record, true);
    if (wasResumed) void this.#resume(task);
  }

  /** A process for work that has no screen. */
  wake(app: RunnableApp, why: string): void {
    if (!this.#processOf(app)) this.#startProcess(app, why, app.appId);
  }
  pidOf = (appId: string): number => this.#on.processes.find(appId)?.pid ?? 0;
  isStopped = (appId: string): boolean => this.#stopped.has(appId);

  /** `am kill`: spares an app that is in front, or whose last activity has not been stopped yet. */
  killBackground(appId: string): void {
    const process = this.#on.processes.find(appId);
    const task = this.#tasks.find(({ app }) => app.appId === appId);
    if (!process) return;
    if (task === this.front || task?.records.some(({ lifecycle }) => lifecycle === 'paused')) return;
    this.#on.processes.end(process, 'kill background');
    this.#loseInstances(task);
    this.#reviveServices(appId, task?.app);
  }

  /** The system ends an app from which a permission was taken; what its activities saved stays. */
  endForPermission(appId: string): void {
    const process = this.#on.processes.find(appId);
    const task = this.#tasks.find(({ app }) => app.appId === appId);
    if (!process) return;
    this.#on.processes.end(process, 'permissions revoked');
    this.#loseInstances(task);
    if (task === this.front) void this.#resume(task);
  }

  /** `am force-stop`: the task and all that it saved go with it. */
  forceStop(appId: string): void {
    const process = this.#on.processes.find(appId);
    const task = this.#tasks.find(({ app }) => app.appId === appId);
    if (process) this.#on.processes.end(process, 'stop');
    this.#stopped.add(appId);
    this.#services = this.#services.filter((service) => service.appId !== appId);
    if (!task || task.app === this.#on.home) return;
    const wasFront = task === this.front;
    this.#tasks = this.#tasks.filter((one) => one !== task);
    if (wasFront) void this.#resume(this.front);
  }

  /** The phone goes down: as stopped by force, but for the mark of it. */
  shutDown(appId: string): void {
    const wasStopped = this.isStopped(appId);
    this.forceStop(appId);
    if (!wasStopped) this.#stopped.delete(appId);
  }

  #loseInstances(task: Task | undefined): void {
    for (const record of task?.records ?? []) {
      record.state = undefined;
      record.receivers = undefined;
      record.focused = undefined;
      record.lifecycle = 'none';
    }
  }

  /** A started service that is sticky brings its process back after a moment. */
  #reviveServices(appId: string, app: RunnableApp | undefined): void {
    const services = this.#services.filter((service) => service.appId === appId);
    if (services.length === 0 || !app) return;
    this.#later(SERVICE_RESTART_MS, () => {
      if (!this.#processOf(app)) this.#startProcess(app, 'service', services[0]!.className);
    });
  }

  /** Runs code of the app; what it throws ends its process. */
  run(task: Task, record: ActivityRecord, method: string, code: (host: ScreenHost) => void): boolean {
    const process = this.#processOf(task.app);
    if (!process) return false;
    try {
      code(this.#hostOf(task, record, process));
      return true;
    } catch (error) {
      if (!(error instanceof Error)) throw error;
      this.#crash(task, record, process, method, error);
      return false;
    }
  }

  /** The same where no activity runs it. */
  runInBackground(app: RunnableApp, where: string, code: () => void): void {
    const process = this.#processOf(app);
    if (!process) return;
    try {
      code();
    } catch (error) {
      if (!(error instanceof Error)) throw error;
      this.#tellCrash(process, where, error);
      this.#on.processes.end(process, 'crash');
      const task = this.#tasks.find((one) => one.app.appId === app.appId);
      if (task) this.#loseInstances(task);
      if (task === this.front) void this.#resume(task);
    }
  }

  #hostOf(task: Task, record: ActivityRecord, process: Process): ScreenHost {
    const { app } = task;
    return {
      get state() {
        return record.state ?? {};
      },
      set: (values) => {
        record.state = { ...record.state, ...values };
      },
      open: (screen, { alone = false, extras = {}, instead = false } = {}) => {
        const left = alone ? task.records : instead ? [record] : [];
        const next = this.#newRecord(app, screen, extras);
        for (const one of [...left, record]) this.#pause(task, one);
        task.records = [...task.records.filter((one) => !left.includes(one)), next];
        for (const one of left) this.#later(this.#on.shape.stopDelayMs, () => this.#destroy(task, one));
        if (task === this.front) void this.#resume(task);
      },
      finish: () => this.#finish(task, record),
      startService: (className) => this.startService(app.appId, `${app.appId}.${className}`),
      memory: process.memory,
      storage: app.storage,
      isOnline: this.#on.isOnline,
      hasPermission: (permission) => this.#on.hasPermission(app.appId, permission),
      requestPermission: (permission) => this.#on.requestPermission(app.appId, permission),
      registerForPush: () => this.#on.registerForPush(app.appId),
      store: {
        list: (products) => this.#on.store.list(app.appId, products),
        buy: (product, accountToken) => this.#on.store.buy(app.appId, product, accountToken),
        refresh: () => this.#on.store.owned(app.appId, false),
        restore: () => this.#on.store.owned(app.appId, true),
      },
      ads: {
        isThere: this.#on.ads.isThere(),
        load: (placement, request) => this.#on.ads.load(app.appId, placement, request),
        show: (placement, network, words) => this.#on.ads.show(app.appId, { placement, network, words }),
      },
      readDisk: (ms, frames) => {
        if (app.model.hasThreadPolicy) tellSlowRead(this.#on.log, process.pid, ms, frames);
      },
      registerReceiver: (className, frames) => {
        record.receivers ??= new Map();
        record.receivers.set(className, frames);
      },
      askForRating: () => this.#on.askForRating(app.appId),
      hang: () => this.#hang(app, process),
      log: (tag, message) => this.#on.log.write('main', process.pid, 'D', tag, message),
    };
  }

  /** By the shell, or an app's own code. */
  startService(appId: string, className: string): void {
    if (this.#services.some((service) => service.className === className)) return;
    this.#services.push({ appId, className, token: this.#token(), startedAt: Date.now() });
  }
  /** @returns whether it ran */
  stopService(className: string): boolean {
    const before = this.#services.length;
    this.#services = this.#services.filter((service) => service.className !== className);
    return this.#services.length < before;
  }

  /** `am crash`: the app ends as if its code had thrown. */
  crashByShell(process: Process): void {
    const task = this.#tasks.find(({ app }) => app.appId === process.name);
    const record = task?.records.at(-1);
    const error = Object.assign(new Error('shell-induced crash'), {
      name: 'RemoteServiceException$CrashedByAdbException',
    });
    if (task && record) this.#crash(task, record, process, 'crash', error);
    else this.#on.processes.end(process, 'crash');
  }

  #hang({ appId }: RunnableApp, process: Process): void {
    const reason = 'Input dispatching timed out';
    this.#on.log.event(this.#on.processes.systemPid, 'am_anr', [0, process.pid, appId, 0, reason]);
    this.#on.onHang(this.front.app);
  }

  #crash(task: Task, record: ActivityRecord, process: Process, method: string, error: Error): void {
    this.#tellCrash(process, `${record.className}.${method}`, error);
    this.#on.processes.end(process, 'crash');
    this.#loseInstances(task);
    task.records = task.records.filter((one) => one !== record);
    const before = this.#crashedAt.get(task.app.appId) ?? 0;
    this.#crashedAt.set(task.app.appId, Date.now());
    this.#on.onCrash(task.app, Date.now() - before < REPEATED_MS);
    if (task.records.length === 0) this.#tasks = this.#tasks.filter((one) => one !== task);
    void this.#resume(this.front);
  }

  /** @param where class and method: `example.app.MessageService.onMessageReceived` */
  #tellCrash(process: Process, where: string, error: Error): void {
    const { log, processes } = this.#on;
    const [file] = where.split('.').slice(-2);
    const { exception, message } = asOnPlatform(error);
    for (const line of [
      'FATAL EXCEPTION: main',
      `Process: ${process.name}, PID: ${process.pid}`,
      `${exception}: ${message}`,
      `\tat ${where}(${file}.java)`,
      `\tat android.app.ActivityThread.performLaunchActivity(ActivityThread.java)`,
    ])
      log.write('crash', process.pid, 'E', 'AndroidRuntime', line);
    log.event(processes.systemPid, 'am_crash', [
      process.pid,
      0,
      process.name,
      0,
      exception,
      message,
      `${file}.java`,
      0,
    ]);
  }

  #tell(task: Task, record: ActivityRecord, tag: string, why: string): void {
    const pid = this.#processOf(task.app)?.pid ?? this.#on.processes.systemPid;
    const isOld = this.#on.shape.sdk < 30;
    this.#on.log.event(pid, this.#tagged(tag), [
      isOld ? 0 : Number.parseInt(record.token, 16),
      record.className,
      why,
    ]);
  }

  /** Until Android 10 the activity manager told it, and no window manager. */
  #tagged = (tag: string): string => (this.#on.shape.sdk < 30 ? tag.replace(/^wm_/, 'am_') : tag);

  #later(ms: number, act: () => void): void {
    const timer = setTimeout(() => {
      this.#timers.delete(timer);
      act();
    }, ms);
    this.#timers.add(timer);
  }

  #wait = (ms: number): Promise<void> => new Promise((resolve) => this.#later(ms, resolve));
}

/** The app's model runs as JavaScript; on the phone the same mistake is told in the platform's words. */
function asOnPlatform({ message, name }: Error): { exception: string; message: string } {
  if (name !== 'TypeError') return { exception: 'java.lang.IllegalStateException', message };
  const member = /reading '(\w+)'/.exec(message)?.[1];
  return {
    exception: 'java.lang.NullPointerException',
    message: member ? `Attempt to read "${member}" on a null object reference` : message,
  };
}

const SERVICE_RESTART_MS = 150;

const screenOf = (model: PhoneApp, className: string): string | undefined =>
  Object.entries(model.screens).find(
    ([, screen]: [string, ScreenModel]) => `${model.appId}.${screen.activity}` === className,
  )?.[0];

const pick = (state: ScreenState, names: readonly string[]): ScreenState =>
  Object.fromEntries(names.map((name) => [name, state[name]]));

/** What the activity writes, and the focus, which the platform writes for it. */
function savedOf(task: Task, record: ActivityRecord): SavedState {
  const { saves = [] } = task.app.model.screens[record.screen]!;
  return { values: pick(record.state ?? {}, saves), focused: record.focused };
}
