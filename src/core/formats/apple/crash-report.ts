/**
 * Crash reports of iOS (Apple, *Interpreting the JSON format of a crash report*, *Examining the fields in a crash report*): a line
 * of JSON and then a second JSON document (`.ips`), or text (`.crash`, before iOS 15 and as tools write it).
 */
import { z } from 'zod';
import { UnreadableError } from '../../model/problem.ts';
import type { StackFrame } from '../../model/stack.ts';
import type { Trouble } from '../../model/trouble.ts';
import { parseJson } from '../parse-json.ts';

interface CrashReport {
  appId: string;
  version: string;
  build: string;
  /** The app's own binary. */
  program: string;
  trouble: Trouble;
}

type Address = NonNullable<Trouble['addresses']>[number];
/** A frame, with its place in its image. */
type Placed = StackFrame & { address: Address };

const MAX_FRAMES = 200;
const CRASH_REPORT = 'a crash report of iOS: an .ips of type 309, or a .crash';
/** The system's word for an app that took too long. */
const TOOK_TOO_LONG = 0x8badf00d;

const frameSchema = z.looseObject({
  imageOffset: z.number().default(0),
  imageIndex: z.number().int().default(-1),
  symbol: z.string().optional(),
  sourceFile: z.string().optional(),
  sourceLine: z.number().int().optional(),
});
const headSchema = z.looseObject({
  bundleID: z.string().optional(),
  app_version: z.string().default(''),
  build_version: z.string().default(''),
  bug_type: z.string(),
  timestamp: z.string().default(''),
});
const bodySchema = z.looseObject({
  captureTime: z.string().default(''),
  procName: z.string().default(''),
  bundleInfo: z
    .looseObject({
      CFBundleIdentifier: z.string().optional(),
      CFBundleShortVersionString: z.string().optional(),
      CFBundleVersion: z.string().optional(),
    })
    .optional(),
  exception: z
    .looseObject({
      type: z.string().default(''),
      signal: z.string().default(''),
      subtype: z.string().optional(),
    })
    .optional(),
  termination: z
    .looseObject({
      namespace: z.string().default(''),
      code: z.number().default(0),
      indicator: z.string().optional(),
      reasons: z.array(z.string()).default([]),
    })
    .optional(),
  faultingThread: z.number().int().default(0),
  threads: z
    .array(
      z.looseObject({
        name: z.string().optional(),
        queue: z.string().optional(),
        frames: z.array(frameSchema).default([]),
      }),
    )
    .default([]),
  lastExceptionBacktrace: z.array(frameSchema).optional(),
  usedImages: z
    .array(
      z.looseObject({
        name: z.string().default('???'),
        uuid: z.string().default(''),
        base: z.number().default(0),
      }),
    )
    .default([]),
  asi: z.record(z.string(), z.array(z.string())).optional(),
});

/** @throws UnreadableError where it is no crash report, or one of another kind */
export function readCrashReport(file: string, text: string): CrashReport {
  return text.trimStart().startsWith('{') ? readJsonReport(file, text) : readTextReport(file, text);
}

function readJsonReport(file: string, text: string): CrashReport {
  const end = text.indexOf('\n');
  if (end < 0) throw noReport(file, 'one line of JSON without the report that follows it');
  const head = parseJson(file, text.slice(0, end), headSchema, CRASH_REPORT, 1);
  if (head.bug_type !== '309') throw noReport(file, `a report of type ${head.bug_type}, which is no crash`);
  const body = parseJson(file, text.slice(end + 1), bodySchema, CRASH_REPORT);
  const thread = body.threads[body.faultingThread];
  const framesOf = (frames: z.infer<typeof frameSchema>[]) =>
    frames.slice(0, MAX_FRAMES).map((frame): Placed => {
      const image = body.usedImages[frame.imageIndex];
      return {
        className: image?.name ?? '???',
        method: frame.symbol ?? `0x${Math.max(0, frame.imageOffset).toString(16)}`,
        file: frame.sourceFile ?? '',
        ...(frame.sourceLine && { line: frame.sourceLine }),
        address: {
          image: image?.name ?? '???',
          uuid: plainUuid(image?.uuid ?? ''),
          offset: frame.imageOffset,
        },
      };
    });
  const { signal = '', subtype = '', type = '' } = body.exception ?? {};
  const { code = 0, indicator = '', namespace = '', reasons = [] } = body.termination ?? {};
  const said = Object.values(body.asi ?? {}).flat();
  return {
    appId: head.bundleID ?? body.bundleInfo?.CFBundleIdentifier ?? '',
    version: head.app_version || (body.bundleInfo?.CFBundleShortVersionString ?? ''),
    program: body.procName,
    build: head.build_version || (body.bundleInfo?.CFBundleVersion ?? ''),
    trouble: troubleOf({
      at: body.captureTime || head.timestamp,
      thread: thread?.queue ?? thread?.name ?? `${body.faultingThread}`,
      exception: [type, signal && `(${signal})`].filter(Boolean).join(' '),
      message: subtype,
      about: [...said, indicator, ...reasons].filter(Boolean).join('; '),
      tookTooLong: code === TOOK_TOO_LONG || /0x8badf00d/i.test(`${namespace} ${indicator} ${reasons}`),
      // what was thrown says more than where the process was ended for it
      frames: framesOf(body.lastExceptionBacktrace ?? thread?.frames ?? []),
    }),
  };
}

interface Told {
  at: string;
  thread: string;
  exception: string;
  message: string;
  about: string;
  tookTooLong: boolean;
  frames: Placed[];
}

const troubleOf = ({ about, at, exception, frames, message, thread, tookTooLong }: Told): Trouble => ({
  sort: tookTooLong ? 'not-responding' : 'crash',
  at,
  thread,
  thrown: [{ exception, message, frames: frames.map(({ address: _, ...frame }) => frame) }],
  about: about.slice(0, 500),
  frames: 0,
  count: 1,
  addresses: frames.map(({ address }) => address),
});

const FIELD = /^([A-Z][\w /-]+):\s*(.*)$/;
const FRAME = /^\d+\s+(.+?)\s+0x([0-9a-f]+)\s+(.+?)\s+\+\s+(\d+)(?:\s+\((.+?):(\d+)\))?\s*$/;
const IMAGE = /^\s*0x([0-9a-f]+)\s+-\s+0x[0-9a-f]+\s+\+?(.+?)\s+\S+\s+<([0-9a-fA-F-]{32,36})>/;

function readTextReport(file: string, text: string): CrashReport {
  const fields = new Map<string, string>();
  const stacks = new Map<string, string[]>();
  const images = new Map<string, { base: number; uuid: string }>();
  let section = '';
  for (const line of text.split(/\r?\n/)) {
    const heading = /^(Thread \d+(?= Crashed:|:)|Last Exception Backtrace(?=:)|Binary Images(?=:))/.exec(
      line,
    )?.[1];
    if (heading) {
      section = heading;
      if (/ Crashed:/.test(line)) fields.set('Crashed', heading);
    } else if (section === 'Binary Images') {
      const [, base, name, uuid] = IMAGE.exec(line) ?? [];
      if (base && name && uuid) images.set(name, { base: Number.parseInt(base, 16), uuid: plainUuid(uuid) });
    } else if (section !== '' && FRAME.test(line)) {
      const stack = stacks.get(section);
      if (stack) stack.push(line);
      else stacks.set(section, [line]);
    } else {
      const [, name, value] = FIELD.exec(line) ?? [];
      if (name && value !== undefined && !fields.has(name)) fields.set(name, value);
    }
  }
  const type = fields.get('Exception Type');
  if (type === undefined || !fields.has('Identifier'))
    throw noReport(file, 'no *Exception Type* or no *Identifier*');
  const crashed = fields.get('Crashed') ?? 'Thread 0';
  const lines = stacks.get('Last Exception Backtrace') ?? stacks.get(crashed) ?? [];
  const [, version = '', build = ''] = /^(\S*)\s*\((.*)\)/.exec(fields.get('Version') ?? '') ?? [];
  const reason = fields.get('Termination Reason') ?? '';
  return {
    appId: fields.get('Identifier')!,
    program: (fields.get('Process') ?? '').replace(/\s*\[\d+\]$/, ''),
    // the older form has the build first
    ...(/^\d+$/.test(version) && build.includes('.')
      ? { version: build, build: version }
      : { version, build }),
    trouble: troubleOf({
      at: fields.get('Date/Time') ?? '',
      thread: fields.get(`${crashed} name`)?.replace('Dispatch queue: ', '') ?? crashed,
      exception: type,
      message: fields.get('Exception Subtype') ?? '',
      about: [fields.get('Application Specific Information') ?? '', reason].filter(Boolean).join('; '),
      tookTooLong: /0x8badf00d/i.test(reason),
      frames: lines.slice(0, MAX_FRAMES).flatMap((line) => textFrame(line, images) ?? []),
    }),
  };
}

function textFrame(
  line: string,
  images: ReadonlyMap<string, { base: number; uuid: string }>,
): Placed | undefined {
  const [, name, address, symbol, plus, source = '', number] = FRAME.exec(line) ?? [];
  if (!name || !address || !symbol) return undefined;
  const { base = 0, uuid = '' } = images.get(name) ?? {};
  // `0x104f00000 + 311712` names nothing
  const isNameless = /^0x[0-9a-f]+$/.test(symbol) || symbol === name;
  const offset = isNameless ? Number(plus) : Number.parseInt(address, 16) - base;
  return {
    className: name,
    method: isNameless ? `0x${offset.toString(16)}` : symbol,
    file: source,
    ...(number && { line: Number(number) }),
    address: { image: name, uuid, offset },
  };
}

const plainUuid = (uuid: string): string => uuid.replaceAll('-', '').toLowerCase();

const noReport = (file: string, found: string): UnreadableError =>
  new UnreadableError({
    code: 'crash-report.none',
    file,
    found,
    expected: CRASH_REPORT,
  });
