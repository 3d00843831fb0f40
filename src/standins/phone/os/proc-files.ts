import type { Process } from './process-table.ts';

const TICK_MS = 10;

/** `/proc/PID/stat` and its like, which `cat` reads. Fields as in proc(5); the 22nd is the start in ticks after boot. */
export function procFile(path: string, processes: readonly Process[], bootedAt: number): string | undefined {
  if (path === '/proc/uptime') return `${((Date.now() - bootedAt) / 1000).toFixed(2)} 0.00\n`;
  const match = /^\/proc\/(\d+)\/(stat|cmdline)$/.exec(path);
  const process = processes.find(({ pid }) => pid === Number(match?.[1]));
  if (!match || !process) return undefined;
  if (match[2] === 'cmdline') return `${process.name}\0`;
  const short = process.name.slice(-15);
  const zeros = (count: number) => Array.from({ length: count }, () => '0').join(' ');
  return `${process.pid} (${short}) S ${process.ppid} ${zeros(17)} ${Math.floor(process.startedMs / TICK_MS)} ${zeros(30)}\n`;
}
