/**
 * As a new user: whether the app asks for a rating at its first start. Then the moment at which it is meant to ask, twice: what is
 * in front, and whether the app is ready for its user once that is closed, or where nothing was shown.
 */
import type { Intent } from '../../../core/model/intent.ts';
import { ratingLineSchema } from '../../../core/model/rating.ts';
import type { TraceLine } from '../../../core/model/trace.ts';
import { NoDump } from '../../out-of-reach.ts';
import { performSteps } from '../../phone/navigate-to.ts';
import { pause, until } from '../../phone/pause.ts';
import { findElement, StepFailed } from '../../phone/perform-step.ts';
import { beginTrace } from '../begin-trace.ts';
import type { DrillSubject } from '../drill-subject.ts';
import { type LogReader, logReader, toldIn } from './app-lines.ts';

const COMES_WITHIN_MS = 6_000;
/** A new user looks at the first screen for so long. */
const FIRST_LOOK_MS = 3_000;

/** @throws OutOfReach */
export async function askForRating(subject: DrillSubject, intent: Intent): Promise<TraceLine[]> {
  const { lines, write } = beginTrace(subject, 'ratings', 'app');
  const asking = new AskForRating(subject, intent, lines, write);
  try {
    await asking.run();
  } catch (error) {
    if (!(error instanceof StepFailed || error instanceof NoDump)) throw error;
    write('drill.stopped', { step: error instanceof StepFailed ? error.step : 'dump', why: error.message });
  }
  write('drill.ended', {});
  return lines;
}

class AskForRating {
  readonly #subject: DrillSubject;
  readonly #intent: Intent;
  readonly #lines: TraceLine[];
  readonly #write: ReturnType<typeof beginTrace>['write'];
  #log!: LogReader;
  /** Of what the system reports, and crashes. */
  #moment = '';

  constructor(
    subject: DrillSubject,
    intent: Intent,
    lines: TraceLine[],
    write: ReturnType<typeof beginTrace>['write'],
  ) {
    this.#subject = subject;
    this.#intent = intent;
    this.#lines = lines;
    this.#write = write;
  }

  async run(): Promise<void> {
    const { app, device } = this.#subject;
    this.#log = logReader(device, await device.clockS());
    this.#moment = await device.logMoment();
    this.#say({ kind: 'rating.channel', installer: await device.installerOf(app.appId) });
    await device.clear(app);
    await this.#round('first-start', async () => {
      await device.launch(app);
      await pause(FIRST_LOOK_MS);
    });
    for (const round of ['moment', 'again'] as const)
      await this.#round(round, async () => {
        await device.stop(app);
        await device.launch(app);
        // an app that asks at every start has it in the way
        if (await this.#isPrompt()) await device.press('BACK');
        await performSteps(device, app, this.#intent.ratings.reach.slice(0, -1));
        await this.#see(`${round}-before`);
        await performSteps(device, app, this.#intent.ratings.reach.slice(-1));
      });
  }

  async #round(round: 'first-start' | 'moment' | 'again', bringAbout: () => Promise<void>): Promise<void> {
    const { device } = this.#subject;
    this.#say({ kind: 'rating.round', round });
    const from = this.#lines.length;
    await bringAbout();
    const has = (kind: string) => this.#lines.slice(from).some((line) => line.kind === kind);
    let prompt = await this.#isPrompt();
    const isOver = async () => {
      await this.#readLog();
      prompt ||= await this.#isPrompt();
      return prompt || has('rating.finished');
    };
    // what is asked for comes a moment later, or never; an app that tells of no question may show one all the same
    const isSoon = await until(isOver, round === 'first-start' ? 0 : COMES_WITHIN_MS / 2);
    if (!isSoon && has('rating.asked')) await until(isOver, COMES_WITHIN_MS / 2);
    await this.#see(`${round}-asked`);
    this.#say({ kind: 'rating.front', prompt });
    if (prompt) await device.press('BACK');
    if (round === 'first-start') return;
    await until(async () => {
      await this.#readLog();
      return has('rating.finished') || !has('rating.asked');
    }, COMES_WITHIN_MS / 2);
    this.#say({ kind: 'rating.after', ready: await this.#isReady() });
    await this.#see(`${round}-after`);
  }

  async #isPrompt(): Promise<boolean> {
    const { app, device } = this.#subject;
    return device.isRatingPrompt(await device.snapshot(), app.appId);
  }

  /** Undefined where nobody says what should be there. */
  async #isReady(): Promise<boolean | undefined> {
    const { device } = this.#subject;
    const { goesOn } = this.#intent.ratings;
    if (goesOn === undefined) return undefined;
    return until(
      async () => findElement((await device.snapshot()).tree, goesOn) !== undefined,
      COMES_WITHIN_MS,
    );
  }

  async #see(step: string): Promise<void> {
    const { activity, hierarchy } = await this.#subject.device.snapshot();
    this.#write('screen.seen', { step, activity, hierarchy });
  }

  #say(line: object): void {
    this.#lines.push(ratingLineSchema.parse({ ...line, at: new Date().toISOString() }));
  }

  /** What the app says of it, and crashes. */
  async #readLog(): Promise<void> {
    const { device } = this.#subject;
    for (const line of await this.#log.next()) {
      const at = new Date(line.epoch * 1000).toISOString();
      const parsed = ratingLineSchema.safeParse({ ...toldIn(line), at });
      if (parsed.success) this.#lines.push(parsed.data);
    }
    const crashes = (await device.logSince(this.#moment)).filter(({ tag }) => tag === 'AndroidRuntime');
    const known = this.#lines.filter((line) => line.kind === 'log.line').length;
    for (const { message, pid, tag } of crashes.slice(known)) this.#write('log.line', { tag, pid, message });
  }
}
