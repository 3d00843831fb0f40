/** What a lookout on the phone answers, as docs/ios.md has it: each request is one object, and so is each answer. */
import { z } from 'zod';
import type { IosPhone } from './ios-phone.ts';
import type { InstalledIosApp } from './running-app.ts';
import { treeOfScreen } from './tree-of-screen.ts';

export const LOOKOUT_VERSION = 1;

const point = { x: z.number(), y: z.number() };
const seconds = z.number().min(0).max(30);
const app = z.string().max(256);

/** By `ask`. Lengths in points, times in seconds. */
const requestSchema = z.discriminatedUnion('ask', [
  z.looseObject({
    ask: z.literal('start'),
    app,
    arguments: z.array(z.string().max(4096)).max(200).default([]),
    environment: z.record(z.string(), z.string()).default({}),
  }),
  z.looseObject({ ask: z.literal('bring'), app }),
  z.looseObject({ ask: z.literal('end'), app }),
  z.looseObject({ ask: z.literal('throw-away'), app }),
  z.looseObject({ ask: z.literal('state'), app }),
  z.looseObject({ ask: z.literal('look'), apps: z.array(app).max(50), system: z.boolean().default(false) }),
  z.looseObject({ ask: z.literal('picture') }),
  z.looseObject({ ask: z.literal('tap'), ...point }),
  z.looseObject({ ask: z.literal('hold'), ...point, seconds }),
  z.looseObject({ ask: z.literal('drag'), from: z.object(point), to: z.object(point), seconds }),
  z.looseObject({ ask: z.literal('write'), app, text: z.string().max(10_000) }),
  z.looseObject({ ask: z.literal('home') }),
  z.looseObject({ ask: z.literal('turn'), to: z.enum(['portrait', 'landscape']).optional() }),
  z.looseObject({ ask: z.literal('appearance'), to: z.enum(['light', 'dark']).optional() }),
  z.looseObject({ ask: z.literal('shade'), open: z.boolean() }),
  z.looseObject({ ask: z.literal('open'), url: z.string().max(8192), app: app.optional() }),
  z.looseObject({ ask: z.literal('answer'), allow: z.boolean() }),
  z.looseObject({ ask: z.literal('forget'), app, what: z.string() }),
  z.looseObject({ ask: z.literal('lines'), from: z.number().int().min(0) }),
]);
type Request = z.infer<typeof requestSchema>;
type Of<A extends Request['ask']> = Extract<Request, { ask: A }>;

/** What was asked could not be done; the connection goes on. */
export class NotDone extends Error {
  readonly code: 'unknown' | 'no-app' | 'no-focus' | 'not-here';
  constructor(code: NotDone['code'], why: string) {
    super(why);
    this.code = code;
  }
}

/** What `hello` is answered with. */
export const introduce = ({ id, shape }: IosPhone) => ({
  lookout: LOOKOUT_VERSION,
  system: shape.release,
  model: shape.model,
  name: shape.name,
  id,
  widthPt: shape.widthPx / shape.scale,
  heightPt: shape.heightPx / shape.scale,
  scale: shape.scale,
});

/** @throws NotDone */
export async function answerRequest(phone: IosPhone, value: object): Promise<object> {
  const parsed = requestSchema.safeParse(value);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new NotDone('unknown', `${issue!.path.join('.') || 'ask'}: ${issue!.message}`);
  }
  const request = parsed.data;
  return (await (ANSWERS[request.ask] as Answer<Request>)(phone, request)) ?? {};
}

type Answer<R> = (phone: IosPhone, request: R) => Promise<object | undefined> | object | undefined;

const ANSWERS: { [A in Request['ask']]: Answer<Of<A>> } = {
  start: (phone, request) =>
    phone.start(installed(phone, request.app), request.arguments).then(() => undefined),
  bring: (phone, request) => {
    known(phone, request.app);
    return phone.bring(request.app).then(() => undefined);
  },
  end: (phone, request) => {
    phone.end(installed(phone, request.app));
    return undefined;
  },
  'throw-away': (phone, request) => {
    phone.throwAway(installed(phone, request.app));
    return undefined;
  },
  state: (phone, request) => {
    known(phone, request.app);
    return { state: phone.stateOf(request.app) };
  },
  look: async (phone, { apps, system }) => {
    const { front, owner, screen } = await phone.look(apps, system);
    const { scale } = phone.shape;
    const name = phone.get(owner)?.label ?? '';
    return { front, owner, scale, tree: treeOfScreen(screen.placed, { scale, name }) };
  },
  picture: async (phone) => {
    const { screen } = await phone.look();
    return { png: Buffer.from(await screen.png()).toString('base64') };
  },
  tap: (phone, { x, y }) => phone.tap(px(phone, x), px(phone, y)).then(() => undefined),
  hold: (phone, { x, y }) => phone.hold(px(phone, x), px(phone, y)).then(() => undefined),
  drag: (phone, { from, to }) =>
    phone
      .drag({ x: px(phone, from.x), y: px(phone, from.y) }, { x: px(phone, to.x), y: px(phone, to.y) })
      .then(() => undefined),
  write: (phone, { text }) => {
    if (!phone.type(text)) throw new NotDone('no-focus', 'no field has the keyboard');
    return undefined;
  },
  home: (phone) => {
    phone.home();
    return undefined;
  },
  turn: (phone, { to }) => {
    if (to) phone.orientation = to;
    return { is: phone.orientation };
  },
  appearance: (phone, { to }) => {
    if (to) phone.appearance = to;
    return { is: phone.appearance };
  },
  shade: (phone, { open }) => {
    phone.isShadeOpen = open;
    return undefined;
  },
  open: async (phone, request) => ({
    front: await phone.open(
      request.url,
      request.app === undefined ? undefined : installed(phone, request.app),
    ),
  }),
  answer: (phone, { allow }) => ({ asked: phone.answer(allow) }),
  forget: () => {
    throw new NotDone('not-here', 'no app here has asked for such a thing');
  },
  lines: (phone, { from }) => ({
    lines: phone.told.slice(Math.max(0, from - phone.droppedLines)),
    next: phone.droppedLines + phone.told.length,
    now: new Date().toISOString(),
  }),
};

const px = ({ shape }: IosPhone, points: number): number => points * shape.scale;

function known(phone: IosPhone, appId: string): void {
  if (!phone.has(appId)) throw new NotDone('no-app', `${appId} is not on this device`);
}

function installed(phone: IosPhone, appId: string): InstalledIosApp {
  const found = phone.get(appId);
  if (!found) throw new NotDone('no-app', `${appId} is not on this device`);
  return found;
}
