/** Logs, bug reports and crash reports in files: read line by line, and never whole where they are large. */
import { createReadStream } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { extname } from 'node:path';
import { LogReader } from '../core/formats/android/log/read-log.ts';
import { readCrashReport } from '../core/formats/apple/crash-report.ts';
import { openZip, type Zip } from '../core/formats/zip.ts';
import { UnreadableError, unwrap } from '../core/model/problem.ts';
import type { DeviceLog } from '../core/model/trouble.ts';
import { nodePorts, withFile } from './ports.ts';
import { readTextFile } from './read-yaml.ts';

const HEAD_BYTES = 64 * 1024;
const LOG_LIMIT_BYTES = 2 ** 30;
const REPORT_LIMIT_BYTES = 32 * 2 ** 20;
const LINE_LIMIT = 64 * 1024;
const LOG_LINE =
  /^(?:--------- beginning of |={8,}\r?\n== dumpstate|(?:[^\n]*\n){0,200}?(?:(?:\d{4}-)?\d\d-\d\d \d\d:\d\d:\d\d\.\d{3}|\s*\d{9,}\.\d{3}|\[ \d\d-\d\d|[VDIWEF]\/[^\n]{1,80}\( *\d+\): ))/;
const MAIN_ENTRY = /^(?:bugreport-[^/]*|bugreport|main_entry)\.txt$/;
const TRACES = /^FS\/data\/anr\/[^/]+$/;

/** What begins a file; empty where there is none. */
export async function headOf(path: string): Promise<string> {
  const file = await open(path).catch(() => undefined);
  if (!file) return '';
  try {
    const head = Buffer.alloc(HEAD_BYTES);
    const { bytesRead } = await file.read(head, 0, HEAD_BYTES, 0);
    return head.toString('utf8', 0, bytesRead);
  } catch {
    // a folder
    return '';
  } finally {
    await file.close();
  }
}

/** Whether a file is a device's log, a bug report or a crash report, by its name and its beginning. */
export async function isLogFile(path: string): Promise<boolean> {
  const kind = extname(path).toLowerCase();
  if (kind === '.ips' || kind === '.crash') return true;
  if (kind === '.zip') return /bugreport/i.test(path) || (await hasMainEntry(path));
  return ['.txt', '.log', '.logcat'].includes(kind) && LOG_LINE.test(await headOf(path));
}

const hasMainEntry = (path: string): Promise<boolean> =>
  withZip(path, (zip) => [...zip.entries.keys()].some((name) => MAIN_ENTRY.test(name))).catch(() => false);

/**
 * What it tells of one app.
 *
 * @throws UnreadableError where it is none of these, damaged or too large, or about another app
 */
export async function readLogFile(path: string, appId: string, signal?: AbortSignal): Promise<DeviceLog> {
  const kind = extname(path).toLowerCase();
  if (kind === '.ips' || kind === '.crash') return reportAsLog(path, appId);
  const reader = new LogReader(appId);
  if (kind === '.zip') await withZip(path, (zip) => readBugReport(path, zip, reader));
  else {
    const { size } = await stat(path);
    if (size > LOG_LIMIT_BYTES) throw tooLarge(path, size, LOG_LIMIT_BYTES);
    await readLines(createReadStream(path, { highWaterMark: 2 ** 20 }), reader, signal);
  }
  const log = reader.finish();
  if (log.lines === 0)
    throw new UnreadableError({
      code: 'log.none',
      file: path,
      found: 'no line of a device’s log',
      expected: 'what `adb logcat -d` prints, in any of its formats',
    });
  return log;
}

async function reportAsLog(path: string, appId: string): Promise<DeviceLog> {
  const report = readCrashReport(path, await readTextFile(path, REPORT_LIMIT_BYTES));
  if (report.appId !== appId)
    throw new UnreadableError({
      code: 'log.other-app',
      file: path,
      found: `a report of ${report.appId || 'an app without a name'}`,
      expected: `one of ${appId}`,
    });
  return {
    lines: 0,
    sawApp: true,
    version: [report.version, report.build && `(${report.build})`].filter(Boolean).join(' '),
    program: report.program,
    made: [],
    ended: [],
    troubles: [report.trouble],
  };
}

/** The traces first: the log says of an app that did not answer only that. */
async function readBugReport(path: string, zip: Zip, reader: LogReader): Promise<void> {
  const names = [...zip.entries.keys()];
  const main = names.find((name) => MAIN_ENTRY.test(name));
  if (!main)
    throw new UnreadableError({
      code: 'log.no-bugreport',
      file: path,
      found: 'an archive without the text of a bug report',
      expected: 'what `adb bugreport` writes',
    });
  for (const name of [...names.filter((one) => TRACES.test(one)).sort(), main]) {
    const text = new TextDecoder().decode(await zip.read(name));
    for (const line of text.split('\n')) reader.push(line);
  }
}

async function readLines(
  pieces: AsyncIterable<Uint8Array>,
  reader: LogReader,
  signal?: AbortSignal,
): Promise<void> {
  const decoder = new TextDecoder();
  let rest = '';
  for await (const piece of pieces) {
    signal?.throwIfAborted();
    const lines = (rest + decoder.decode(piece, { stream: true })).split('\n');
    rest = (lines.pop() ?? '').slice(0, LINE_LIMIT);
    for (const line of lines) reader.push(line.length > LINE_LIMIT ? line.slice(0, LINE_LIMIT) : line);
  }
  if (rest !== '') reader.push(rest);
}

async function withZip<T>(path: string, use: (zip: Zip) => T | Promise<T>): Promise<T> {
  return withFile(path, async (source) => use(unwrap(await openZip(path, source, nodePorts))));
}

const tooLarge = (file: string, size: number, limit: number): UnreadableError =>
  new UnreadableError({
    code: 'log.too-large',
    file,
    found: `${size} bytes`,
    expected: `up to ${limit / 2 ** 20} MB`,
    remedy: 'Cut it to the time of the trouble: adb logcat -d -T "11-30 12:00:00.000".',
  });
