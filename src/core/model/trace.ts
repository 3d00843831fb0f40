import { z } from 'zod';
import { buildKeySchema, platformSchema } from './candidate.ts';
import { cellSchema } from './cell.ts';
import type { UiNode } from './ui-tree.ts';

/** One timed event, one object a line. Anything may stand beside `at` and `kind`. */
export const traceLineSchema = z.looseObject({
  /** ISO 8601 with offset or Z. */
  at: z.iso.datetime({ offset: true }),
  kind: z.string().regex(/^[a-z][a-z0-9.-]*$/, 'a kind is lower case, such as "link.opened"'),
});
export type TraceLine = z.infer<typeof traceLineSchema>;

const at = traceLineSchema.shape.at;
const step = z.string().min(1);

/** What a drill writes down while it runs on a device: one run in one trace. */
export const drillLineSchema = z.discriminatedUnion('kind', [
  z.looseObject({
    at,
    kind: z.literal('drill.began'),
    drill: z.string(),
    cell: cellSchema,
    appId: z.string(),
    build: buildKeySchema.optional(),
    /** Android where nothing is said. */
    platform: platformSchema.optional(),
    /** The same phone has the same one, wherever it is attached. */
    deviceId: z.string(),
    /** API level of Android, major version of iOS. */
    sdk: z.number().int(),
    densityDpi: z.number().positive(),
  }),
  /** The screen that the drill is about could not be reached; or something was in the way. */
  z.looseObject({ at, kind: z.literal('drill.stopped'), step, why: z.string() }),
  /** The screen in front: `first` of the app, `before` and `before-again`, `away`, `after`, then `back-1` and so on. */
  z.looseObject({
    at,
    kind: z.literal('screen.seen'),
    step,
    /** `example.app/.MainActivity`; empty where none is in front. */
    activity: z.string(),
    /** The OS's UI hierarchy dump, or what a lookout told (docs/ios.md); empty where none could be had. */
    hierarchy: z.string(),
  }),
  /** A picture of what was in front, where it differs; a file of the dossier. */
  z.looseObject({ at, kind: z.literal('screen.pictured'), step, file: z.string() }),
  /** The app's process; without `pid` it was not there. */
  z.looseObject({
    at,
    kind: z.literal('process.seen'),
    step,
    pid: z.number().int().optional(),
    /** Start in clock ticks after boot, proc(5). */
    startTicks: z.number().optional(),
  }),
  /** Where the system says that the app is; of Android its log tells more. */
  z.looseObject({
    at,
    kind: z.literal('app-state.seen'),
    step,
    state: z.enum(['front', 'background', 'suspended', 'not-running', 'unknown']),
  }),
  z.looseObject({
    at,
    kind: z.literal('command.ran'),
    line: z.string(),
    code: z.number().int(),
    said: z.string().optional(),
  }),
  /** A setting that the drill changed, and what it reads then. */
  z.looseObject({
    at,
    kind: z.literal('setting.borrowed'),
    setting: z.string(),
    wanted: z.string().nullable(),
    reads: z.string().nullable(),
  }),
  /** A line of the device's log that reports the app. */
  z.looseObject({
    at,
    kind: z.literal('log.line'),
    tag: z.string(),
    pid: z.number().int(),
    message: z.string(),
  }),
  z.looseObject({ at, kind: z.literal('services.seen'), step, services: z.array(z.string()) }),
  /** `am start -W`: from the order until the first frame. */
  z.looseObject({ at, kind: z.literal('start.timed'), totalMs: z.number(), launch: z.string() }),
  /** A setting that was overridden: as it was, and as it reads after it was restored; null has no value. */
  z.looseObject({
    at,
    kind: z.literal('setting.put-back'),
    setting: z.string(),
    was: z.string().nullable(),
    now: z.string().nullable(),
  }),
  /** A link handed to the device; what it opened is seen under the same step, what lies further down under `STEP-below`, and after it `STEP-back-1` and so on. */
  z.looseObject({
    at,
    kind: z.literal('link.fired'),
    step,
    url: z.string(),
    /** The app was not running, had been left with the home key, or was in front. */
    how: z.enum(['cold', 'warm', 'front']),
    /** To the app by its name, which passes by browser, site and chooser. */
    addressed: z.boolean(),
    route: z.string(),
    probe: z.enum(['good', 'edge', 'hostile']),
    variant: z.string(),
    arguments: z.record(z.string(), z.string()),
    /** What the device says that it started: `example.app/.MainActivity`; empty where it refused. */
    started: z.string(),
    /** In front before. */
    from: z.string(),
  }),
  /** The system's question whether the app may send messages, and what became of it. */
  z.looseObject({
    at,
    kind: z.literal('permission.asked'),
    step,
    asked: z.boolean(),
    answer: z.enum(['allow', 'refuse']),
    /** As the device reads it afterwards; left out where nothing reads it. */
    granted: z.boolean().optional(),
  }),
  /** What an app told its log of its token; the token itself is nowhere. */
  z.looseObject({
    at,
    kind: z.literal('token.registered'),
    step,
    bytes: z.number(),
    isHex: z.boolean(),
    /** First digits of the token's SHA-256: the same token has the same ones. */
    digest: z.string(),
  }),
  z.looseObject({
    at,
    kind: z.literal('message.sent'),
    step,
    message: z.string(),
    environment: z.enum(['production', 'development']),
    /** iOS's gateway where nothing is said, or Android's messaging service. */
    service: z.enum(['gateway', 'messages']).optional(),
    state: z.enum(['front', 'background', 'not-running']),
    /** Label of the button that is to be touched, in the place of the message. */
    action: z.string().optional(),
    /** It sets the number on the icon of the app. */
    counts: z.boolean().optional(),
    /** Of the token that it went to. */
    digest: z.string(),
    status: z.number().int(),
    reason: z.string().optional(),
  }),
  /** What the system shows of the app: as `dumpsys notification` lists it, or as it stands in the shade. */
  z.looseObject({
    at,
    kind: z.literal('notifications.seen'),
    step,
    posted: z.array(
      z.looseObject({
        channel: z.string(),
        title: z.string(),
        text: z.string(),
        /** Left out where nothing lists them. */
        actions: z.array(z.string()).optional(),
      }),
    ),
  }),
  /** The number on the icon of the app: under `STEP-before` once a message came, under its step once it was opened and the app left. */
  z.looseObject({ at, kind: z.literal('badge.seen'), step, badge: z.int() }),
  /** The channels that the app has made, started again in one of its languages. */
  z.looseObject({
    at,
    kind: z.literal('channels.seen'),
    step,
    /** BCP 47. */
    locale: z.string(),
    channels: z.array(z.looseObject({ id: z.string(), name: z.string() })),
  }),
  /** A message in the shade was tapped, or one of its buttons: what it opened is seen under the same step. */
  z.looseObject({ at, kind: z.literal('message.tapped'), step, action: z.string().optional() }),
  z.looseObject({ at, kind: z.literal('drill.ended') }),
]);
export type DrillLine = z.infer<typeof drillLineSchema>;
export type DrillLineOf<K extends DrillLine['kind']> = Extract<DrillLine, { kind: K }>;

/** The same with its dump decoded. */
export type SeenLine = DrillLineOf<'screen.seen'> & { tree?: UiNode };
