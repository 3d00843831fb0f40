/**
 * Messages from the permission to the tap: the question with both answers, the token and the gateways, each message in
 * each state of the app, its buttons, and a new installation. It clears the data of the app, and installs it again.
 */
import { createHash } from 'node:crypto';
import type { Intent } from '../../../core/model/intent.ts';
import type { IntentPushMessage } from '../../../core/model/intent-parts.ts';
import { LOG_TAG } from '../../../core/model/log-tag.ts';
import type { DrillLine, DrillLineOf } from '../../../core/model/trace.ts';
import type { PushAnswered, PushSender } from '../../../node/push/send-push.ts';
import type { Posted } from '../../device.ts';
import { NoDump } from '../../out-of-reach.ts';
import { navigateTo, performSteps } from '../../phone/navigate-to.ts';
import { until } from '../../phone/pause.ts';
import { StepFailed } from '../../phone/perform-step.ts';
import { beginTrace } from '../begin-trace.ts';
import type { DrillSubject } from '../drill-subject.ts';
import {
  bringTo,
  clearShade,
  MESSAGE_STATES,
  type MessageState,
  tapInShade,
  tokenSince,
  toldReceived,
} from './messages-on-phone.ts';

export interface MessageToSend {
  body: Uint8Array;
  headers: Readonly<Record<string, string>>;
  /** It sets the number on the icon of the app. */
  counts?: boolean;
}

export interface PushKit {
  sender: PushSender;
  /** By the ids of the intent file. */
  messages: ReadonlyMap<string, MessageToSend>;
  /** So that it can be installed again. */
  package: Uint8Array;
  signal?: AbortSignal;
}

type Environment = DrillLineOf<'message.sent'>['environment'];

const COMES_WITHIN_MS = 3_000;
/** How long nothing must come before it counts as nothing. */
const NOTHING_WITHIN_MS = 1_200;

/** @throws OutOfReach: the device, or the gateway */
export async function walkMessages(
  subject: DrillSubject,
  intent: Intent,
  kit: PushKit,
): Promise<DrillLine[]> {
  const { lines, write } = beginTrace(subject, 'push', 'app');
  const walk = new MessageWalk(subject, intent, kit, write);
  try {
    await walk.run();
  } catch (error) {
    if (!(error instanceof StepFailed || error instanceof NoDump)) throw error;
    write('drill.stopped', { step: error instanceof StepFailed ? error.step : 'dump', why: error.message });
  }
  write('drill.ended', {});
  return lines;
}

class MessageWalk {
  readonly #subject: DrillSubject;
  readonly #intent: Intent;
  readonly #kit: PushKit;
  readonly #write: ReturnType<typeof beginTrace>['write'];
  #steps = 0;

  constructor(
    subject: DrillSubject,
    intent: Intent,
    kit: PushKit,
    write: ReturnType<typeof beginTrace>['write'],
  ) {
    this.#subject = subject;
    this.#intent = intent;
    this.#kit = kit;
    this.#write = write;
  }

  async run(): Promise<void> {
    const { device } = this.#subject;
    const canInstall = !device.whyNot('fresh-install');
    const messages = this.#intent.push.messages.filter(({ id }) => this.#kit.messages.has(id));
    const shown = messages.filter(({ screen }) => screen !== undefined);
    const [probe = messages[0]!] = shown;
    if (canInstall) await this.#answer('refuse', 'refused', probe);
    const token = canInstall ? await this.#answer('allow', 'allowed', probe) : await this.#tokenAsItIs();
    if (token === undefined) return;
    const environment = await this.#findEnvironment(token, probe);
    if (environment === undefined) return;
    await this.#lookAtGoals(shown);
    for (const message of messages)
      for (const state of MESSAGE_STATES) await this.#runMessage(message, state, token, environment);
    for (const message of shown)
      for (const { label } of message.actions)
        for (const state of MESSAGE_STATES) await this.#runMessage(message, state, token, environment, label);
    if (canInstall) await this.#reinstall(token, environment, probe);
    if (!device.whyNot('channels')) await this.#lookAtChannels();
  }

  /** Where nothing names the screens of an app, those that messages lead to are looked at first. */
  async #lookAtGoals(messages: readonly IntentPushMessage[]): Promise<void> {
    const { app, device } = this.#subject;
    if (device.platform === 'android') return;
    const ids = messages.flatMap(({ actions, screen }) => [screen, ...actions.map((one) => one.screen)]);
    for (const goal of this.#intent.screens.filter(({ id }) => ids.includes(id)))
      try {
        await navigateTo(device, app, goal);
        const { activity, hierarchy } = await device.snapshot();
        this.#write('screen.seen', { step: `goal-${goal.id}`, activity, hierarchy });
      } catch (error) {
        // drills on it tell that it cannot be reached, and landings on it stay untested
        if (!(error instanceof StepFailed)) throw error;
      }
  }

  /** Where it cannot be installed again: of a run of its own, asked as its user may be. */
  async #tokenAsItIs(): Promise<string> {
    const { app, device } = this.#subject;
    const moment = await device.logMoment();
    await device.stop(app);
    await device.launch(app);
    await performSteps(device, app, this.#intent.push.ask);
    await device.answerQuestion('allow');
    const token = await this.#tokenSince(moment, 'as-it-is');
    if (token === undefined)
      throw new StepFailed(
        'token',
        'the app told no token at its start: let its debug code tell {"kind":"push.registered","token":"…"} to the lookout',
      );
    return token;
  }

  /** In each language of the app, started again: most apps make their channels then, and only then. */
  async #lookAtChannels(): Promise<void> {
    const { app, device, overrides } = this.#subject;
    const setting = `locale ${app.appId}`;
    for (const locale of new Set([this.#intent.sourceLocale, ...this.#intent.locales])) {
      await overrides.override(setting, locale);
      await device.stop(app);
      await device.launch(app);
      await device.snapshot();
      const channels = await device.channelsOf(app.appId);
      this.#write('channels.seen', { step: `channels-${locale}`, locale, channels });
    }
    await overrides.restore(setting);
  }

  /** From an app that was never opened: to the question, and through it. @returns the token that came of it */
  async #answer(
    answer: 'allow' | 'refuse',
    step: string,
    probe: IntentPushMessage,
  ): Promise<string | undefined> {
    const { app, device } = this.#subject;
    await device.clear(app);
    const moment = await device.logMoment();
    await device.launch(app);
    await performSteps(device, app, this.#intent.push.ask);
    const asked = await device.answerQuestion(answer);
    const granted = await device.hasMessagePermission(app.appId);
    this.#write('permission.asked', {
      step,
      asked,
      answer,
      ...(granted !== undefined && { granted }),
    });
    const now = await device.stateOf(app);
    if (now !== undefined) this.#write('app-state.seen', { step, state: now });
    await this.#writeLog(moment);
    const token = await this.#tokenSince(moment, step);
    if (answer === 'refuse' && token !== undefined) {
      // it may have one all the same, and must show nothing
      const answered = await this.#send(probe, token, 'production');
      if (answered.status !== 200 && this.#kit.sender.environments.includes('development'))
        await this.#send(probe, token, 'development');
      await this.#waitFor(({ length }) => length > 0, NOTHING_WITHIN_MS);
      this.#write('notifications.seen', { step, posted: await this.#postedInShade() });
    }
    return token;
  }

  async #findEnvironment(token: string, probe: IntentPushMessage): Promise<Environment | undefined> {
    for (const environment of this.#kit.sender.environments) {
      const answered = await this.#send(probe, token, environment);
      this.#writeSent(`environment-${environment}`, probe, 'front', token, environment, answered);
      if (answered.status !== 200) continue;
      // what it brought is put away
      await this.#waitFor(({ length }) => length > 0, NOTHING_WITHIN_MS);
      await clearShade(this.#subject.device, this.#subject.app.appId);
      return environment;
    }
    return undefined;
  }

  async #runMessage(
    message: IntentPushMessage,
    state: MessageState,
    token: string,
    environment: Environment,
    action?: string,
  ): Promise<void> {
    this.#kit.signal?.throwIfAborted();
    const { app, device } = this.#subject;
    const step = `message-${++this.#steps}`;
    await clearShade(this.#subject.device, this.#subject.app.appId);
    await bringTo(device, app, state);
    const moment = await device.logMoment();
    const answered = await this.#send(message, token, environment);
    this.#writeSent(step, message, state, token, environment, answered, action);
    const isShown = message.screen !== undefined;
    if (answered.status === 200)
      await this.#waitFor(
        async ({ length }) => length > 0 || (!isShown && (await toldReceived(device, moment))),
        isShown ? COMES_WITHIN_MS : NOTHING_WITHIN_MS,
      );
    const posted = await this.#postedInShade();
    this.#write('notifications.seen', { step, posted });
    const { counts } = this.#kit.messages.get(message.id)!;
    const looksAtBadge = counts && posted.length > 0 && isShown && action === undefined;
    // with the app left, which looking at its icon would do
    if (looksAtBadge && state !== 'front') await this.#lookAtBadge(`${step}-before`);
    if (posted.length > 0 && isShown) await this.#touch(step, posted[0]!, action);
    const now = await device.stateOf(app);
    if (now !== undefined) this.#write('app-state.seen', { step, state: now });
    await this.#writeLog(moment);
    if (looksAtBadge) await this.#lookAtBadge(step);
  }

  async #lookAtBadge(step: string): Promise<void> {
    const { app, device } = this.#subject;
    const badge = await device.badgeOf(app.appId);
    if (badge !== undefined) this.#write('badge.seen', { step, badge });
  }

  /** In the shade: the message itself, or one of its buttons. */
  async #touch(step: string, { actions, title }: Posted[number], action: string | undefined): Promise<void> {
    const { device } = this.#subject;
    const isThere =
      action === undefined
        ? await tapInShade(device, title)
        : await tapInShade(device, action, actions === undefined ? title : undefined);
    if (!isThere) {
      if (action === undefined) throw new StepFailed(step, `there is no “${title}” in the shade`);
      return;
    }
    this.#write('message.tapped', { step, ...(action !== undefined && { action }) });
    const { activity, hierarchy } = await device.snapshot();
    this.#write('screen.seen', { step, activity, hierarchy });
    this.#write('notifications.seen', { step, posted: await this.#postedInShade() });
  }

  async #reinstall(token: string, environment: Environment, probe: IntentPushMessage): Promise<void> {
    const { app, device } = this.#subject;
    await device.uninstall(app.appId);
    const why = await device.install(this.#kit.package);
    if (why) throw new StepFailed('reinstall', `the device refuses the package: ${why.split('\n')[0]}`);
    await this.#answer('allow', 'reinstalled', probe);
    const answered = await this.#send(probe, token, environment);
    this.#writeSent('reinstalled-old', probe, 'front', token, environment, answered);
  }

  #send(message: IntentPushMessage, token: string, environment: Environment): Promise<PushAnswered> {
    const { body, headers } = this.#kit.messages.get(message.id)!;
    return this.#kit.sender.send({ environment, token, headers, body });
  }

  #writeSent(
    step: string,
    { id }: IntentPushMessage,
    state: MessageState,
    token: string,
    environment: Environment,
    { reason, status }: PushAnswered,
    action?: string,
  ): void {
    this.#write('message.sent', {
      step,
      message: id,
      state,
      environment,
      ...(action !== undefined && { action }),
      ...(this.#kit.messages.get(id)!.counts && { counts: true }),
      service: this.#kit.sender.service,
      digest: digestOf(token),
      status,
      ...(reason && { reason }),
    });
  }

  /** Only what it is like is written down. */
  async #tokenSince(moment: string, step: string): Promise<string | undefined> {
    const { device } = this.#subject;
    const token = await tokenSince(device, { moment, withinMs: COMES_WITHIN_MS });
    if (token !== undefined)
      this.#write('token.registered', {
        step,
        bytes: token.length / 2,
        isHex: /^([0-9a-f]{2})+$/i.test(token),
        digest: digestOf(token),
      });
    return token;
  }

  async #writeLog(moment: string): Promise<void> {
    const { app, device } = this.#subject;
    const told = (await device.logSince(moment, 'main')).filter(
      ({ message, tag }) => tag === LOG_TAG && !message.includes('"token"'),
    );
    const system = (await device.logSince(moment)).filter(
      ({ message, tag }) => tag === 'AndroidRuntime' || (tag === 'am_anr' && message.includes(app.appId)),
    );
    for (const { message, pid, tag } of [...told, ...system]) this.#write('log.line', { tag, pid, message });
  }

  async #posted(): Promise<Posted> {
    return this.#subject.device.postedMessages(this.#subject.app.appId);
  }

  #postedInShade = (): Promise<Posted> =>
    this.#subject.device.postedMessages(this.#subject.app.appId, 'shade');

  #waitFor(isSo: (posted: Posted) => boolean | Promise<boolean>, withinMs: number): Promise<boolean> {
    return until(async () => isSo(await this.#posted()), withinMs);
  }
}

const digestOf = (token: string): string => createHash('sha256').update(token).digest('hex').slice(0, 12);
