/** Processes with their ids and start times. An id is never given twice in a row. */
import type { DeviceLog } from './device-log.ts';

export interface Process {
  pid: number;
  ppid: number;
  uid: number;
  name: string;
  /** Milliseconds after boot. */
  startedMs: number;
  /** What the app's code keeps there; gone with the process. */
  memory: Map<string, unknown>;
}

const SYSTEM: [name: string, uid: number][] = [
  ['init', 0],
  ['zygote64', 0],
  ['adbd', 2000],
  ['surfaceflinger', 1000],
  ['system_server', 1000],
  ['com.android.systemui', 10042],
  ['com.android.launcher', 10051],
];

export class ProcessTable {
  readonly #log: DeviceLog;
  bootedAt = Date.now();
  #running = new Map<number, Process>();
  #nextPid = 1;
  systemPid = 0;

  constructor(log: DeviceLog) {
    this.#log = log;
    this.restart();
  }

  /** Only those of the system, as after booting. */
  restart(): void {
    this.bootedAt = Date.now();
    this.#running.clear();
    this.#nextPid = 1;
    for (const [name, uid] of SYSTEM) this.#add(name, uid, name === 'init' ? 0 : 1);
    this.systemPid = this.find('system_server')!.pid;
  }

  #add(name: string, uid: number, ppid: number): Process {
    const pid = this.#nextPid;
    // other processes come and go in between
    this.#nextPid += pid === 1 ? 311 : 3 + ((pid * 7919) % 41);
    const process = { pid, ppid, uid, name, startedMs: Date.now() - this.bootedAt, memory: new Map() };
    this.#running.set(pid, process);
    return process;
  }

  all = (): Process[] => [...this.#running.values()];
  get = (pid: number): Process | undefined => this.#running.get(pid);
  find = (name: string): Process | undefined => this.all().find((process) => process.name === name);

  start(name: string, uid: number, why: string, component: string): Process {
    const process = this.#add(name, uid, this.find('zygote64')!.pid);
    this.#log.event(this.systemPid, 'am_proc_start', [0, process.pid, uid, name, why, `{${component}}`]);
    this.#log.event(this.systemPid, 'am_proc_bound', [0, process.pid, name]);
    return process;
  }

  /** Ends a process without asking it. */
  end(
    { pid, name }: Process,
    why: 'kill background' | 'stop' | 'crash' | 'not responding' | 'permissions revoked',
  ): void {
    if (!this.#running.delete(pid)) return;
    if (why !== 'crash') this.#log.event(this.systemPid, 'am_kill', [0, pid, name, 900, why]);
    this.#log.event(this.systemPid, 'am_proc_died', [0, pid, name, 900, 19]);
  }
}
