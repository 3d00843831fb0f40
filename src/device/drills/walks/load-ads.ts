/**
 * Each placement with each of its networks: the others are told to have nothing, so that the waterfall comes to this one; what it
 * loaded is shown and closed where it fills the screen. With a test store, then once more after the removal of ads was bought.
 */
import { adLineSchema } from '../../../core/model/ad-line.ts';
import type { Intent } from '../../../core/model/intent.ts';
import type { AdPlacement } from '../../../core/model/intent-parts.ts';
import { ledgerLineSchema } from '../../../core/model/ledger.ts';
import type { TraceLine } from '../../../core/model/trace.ts';
import type { AdsClient } from '../../../node/ads/ads-file.ts';
import type { StoreClient } from '../../../node/store/store-client.ts';
import { NoDump } from '../../out-of-reach.ts';
import { performSteps } from '../../phone/navigate-to.ts';
import { until } from '../../phone/pause.ts';
import { findElement, performStep, StepFailed, tap } from '../../phone/perform-step.ts';
import { beginTrace } from '../begin-trace.ts';
import type { DrillSubject } from '../drill-subject.ts';
import { type LogReader, logReader, toldIn } from './app-lines.ts';

export interface AdsKit {
  client: AdsClient;
  /** Where the removal of ads is bought. */
  store?: StoreClient;
  signal?: AbortSignal;
}

const COMES_WITHIN_MS = 6_000;

/** @throws OutOfReach: the device, the networks or the store */
export async function loadAds(subject: DrillSubject, intent: Intent, kit: AdsKit): Promise<TraceLine[]> {
  const { lines, write } = beginTrace(subject, 'ads', 'app');
  const loads = new LoadAds(subject, intent, kit, lines, write);
  try {
    await loads.run();
  } catch (error) {
    if (!(error instanceof StepFailed || error instanceof NoDump)) throw error;
    write('drill.stopped', { step: error instanceof StepFailed ? error.step : 'dump', why: error.message });
  } finally {
    for (const network of kit.client.networks) await kit.client.setMode(network, 'fill').catch(() => {});
  }
  write('drill.ended', {});
  return lines;
}

class LoadAds {
  readonly #subject: DrillSubject;
  readonly #intent: Intent;
  readonly #kit: AdsKit;
  readonly #lines: TraceLine[];
  readonly #write: ReturnType<typeof beginTrace>['write'];
  #log!: LogReader;
  #steps = 0;
  /** Requests that the networks had told of. */
  #asked = 0;

  constructor(
    subject: DrillSubject,
    intent: Intent,
    kit: AdsKit,
    lines: TraceLine[],
    write: ReturnType<typeof beginTrace>['write'],
  ) {
    this.#subject = subject;
    this.#intent = intent;
    this.#kit = kit;
    this.#lines = lines;
    this.#write = write;
  }

  async run(): Promise<void> {
    const { app, device } = this.#subject;
    this.#log = logReader(device, await device.clockS());
    await device.clear(app);
    this.#asked = (await this.#kit.client.asked(0)).next;
    await this.#register();
    const { placements, removedBy } = this.#intent.ads;
    for (const placement of placements)
      for (const { network } of placement.waterfall) await this.#load(placement, network);
    if (removedBy !== undefined && (await this.#buy(removedBy)))
      for (const placement of placements) await this.#load(placement, placement.waterfall[0]!.network);
  }

  /** This device asks for test ads, and every network knows it. */
  async #register(): Promise<void> {
    const { device } = this.#subject;
    const advertisingId = await device.advertisingId();
    const registered = advertisingId ? [...this.#kit.client.networks] : [];
    for (const network of registered) await this.#kit.client.register(network, advertisingId!);
    // a user may keep it to themselves on Android; on iOS only the app can tell it
    const isIdUnknown = device.platform === 'ios' && advertisingId === undefined;
    this.#say({ kind: 'ad.device', isDevelopment: true, registered, ...(isIdUnknown && { isIdUnknown }) });
  }

  async #load(placement: AdPlacement, network: string): Promise<void> {
    this.#kit.signal?.throwIfAborted();
    const { app, device } = this.#subject;
    for (const one of this.#kit.client.networks)
      await this.#kit.client.setMode(one, one === network ? 'fill' : 'no-fill');
    await device.stop(app);
    const from = this.#lines.length;
    await device.launch(app);
    await device.snapshot();
    await performSteps(device, app, placement.load ?? []);
    const isLoaded = await until(async () => {
      await this.#readLog();
      return this.#lines.slice(from).some((line) => isEnd(line, placement.id, network));
    }, COMES_WITHIN_MS);
    if (isLoaded && placement.show.length > 0) await this.#show(placement);
    await this.#readLog();
    await this.#readAsked();
  }

  /** What the networks themselves saw. */
  async #readAsked(): Promise<void> {
    const { asked, next } = await this.#kit.client.asked(this.#asked);
    this.#asked = next;
    for (const { isRegistered, network, test } of asked)
      this.#say({ kind: 'ad.asked', network, test, isRegistered });
  }

  async #show({ close, id, show }: AdPlacement): Promise<void> {
    const { app, device } = this.#subject;
    const step = `ad-${++this.#steps}`;
    await performSteps(device, app, show.slice(0, -1));
    await this.#see(`${step}-before`);
    const from = this.#lines.length;
    await performStep(device, app, show.at(-1)!);
    const isShown = await until(async () => {
      await this.#readLog();
      return this.#lines.slice(from).some((line) => line.kind === 'ad.showed' && line.placement === id);
    }, COMES_WITHIN_MS / 4);
    if (!isShown) return;
    await device.snapshot();
    if (device.whyNot('back')) await performSteps(device, app, close);
    else await device.press('BACK');
    await until(async () => {
      await this.#readLog();
      return this.#lines.slice(from).some((line) => line.kind === 'ad.closed' && line.placement === id);
    }, COMES_WITHIN_MS / 4);
    await this.#see(`${step}-after`);
  }

  async #see(step: string): Promise<void> {
    const { activity, hierarchy } = await this.#subject.device.snapshot();
    this.#write('screen.seen', { step, activity, hierarchy });
  }

  /** Through the store's sheet, on this device. @returns whether the app says that it gives it */
  async #buy(product: string): Promise<boolean> {
    const { app, device } = this.#subject;
    const { account, products, sheet } = this.#intent.purchases;
    const buy = products.find(({ id }) => id === product)?.buy ?? [];
    if (!this.#kit.store || buy.length === 0) return false;
    await this.#kit.store.order({ do: 'reset', account });
    await device.stop(app);
    await device.launch(app);
    await device.snapshot();
    await performSteps(device, app, buy);
    const from = this.#lines.length;
    return until(async () => {
      const button = findElement((await device.snapshot()).tree, sheet.buy);
      if (button) await tap(device, button);
      await this.#readLog();
      return this.#lines
        .slice(from)
        .some((line) => line.kind === 'access.now' && (line.products as string[]).includes(product));
    }, COMES_WITHIN_MS);
  }

  #say(line: object): void {
    const { device } = this.#subject;
    this.#lines.push(adLineSchema.parse({ ...line, at: new Date().toISOString(), device: device.info.id }));
  }

  /** What the app says of ads and of what it gives; and the networks' own lines, which tell why one does not load. */
  async #readLog(): Promise<void> {
    const { device } = this.#subject;
    const tags = new Set(
      this.#intent.ads.networks.flatMap((network) => (typeof network === 'string' ? [] : network.logTags)),
    );
    for (const line of await this.#log.next()) {
      const at = new Date(line.epoch * 1000).toISOString();
      const told = toldIn(line);
      if (told) {
        const said = { ...told, at, device: device.info.id };
        const parsed = [adLineSchema.safeParse(said), ledgerLineSchema.safeParse(said)].find(
          (one) => one.success,
        );
        if (parsed?.success) this.#lines.push(parsed.data);
      } else if (tags.has(line.tag))
        this.#lines.push({ at, kind: 'log.line', tag: line.tag, pid: line.pid, message: line.message });
    }
  }
}

const isEnd = (line: TraceLine, placement: string, network: string): boolean =>
  (line.kind === 'ad.loaded' || line.kind === 'ad.failed') &&
  line.placement === placement &&
  line.network === network;
