/** The gateway's model against a plain, slow one, over histories made by chance. */
import fc from 'fast-check';
import { type DeliveredPush, PushGateway } from '../../src/standins/push/gateway.ts';

type Act =
  | { do: 'register'; device: number }
  | { do: 'remove'; device: number }
  | { do: 'connect'; device: number }
  | { do: 'disconnect'; device: number }
  | { do: 'send'; device: number; expires?: number }
  | { do: 'wait'; seconds: number };

const device = fc.nat(2);
const acts = fc.array(
  fc.oneof(
    fc.record({ do: fc.constantFrom('register', 'remove', 'connect', 'disconnect'), device }),
    fc.record({ do: fc.constant('send'), device, expires: fc.option(fc.nat(90), { nil: undefined }) }),
    fc.record({ do: fc.constant('wait'), seconds: fc.nat(60) }),
  ),
  { maxLength: 40 },
) as fc.Arbitrary<Act[]>;

const APP = 'example.app';

/** What each device gets, told again from the whole history at every step. */
class Plain {
  now = 1_000_000;
  got: string[][] = [[], [], []];
  online = [false, false, false];
  registered = [false, false, false];
  waiting: ({ text: string; until: number } | undefined)[] = [undefined, undefined, undefined];

  send(of: number, text: string, expires: number | undefined): number {
    if (!this.registered[of]) return 400;
    if (this.online[of]) this.got[of]!.push(text);
    else {
      const until = expires === undefined ? Number.POSITIVE_INFINITY : this.now + expires;
      if (until > this.now) this.waiting[of] = { text, until };
    }
    return 200;
  }
  connect(of: number): void {
    this.online[of] = true;
    const one = this.waiting[of];
    this.waiting[of] = undefined;
    if (one && one.until > this.now) this.got[of]!.push(one.text);
  }
}

test('everybody gets what is theirs, in order, and nobody else', async () => {
  await fc.assert(
    fc.asyncProperty(acts, async (history) => {
      const plain = new Plain();
      let ids = 0;
      const gateway = new PushGateway({
        nowMs: () => plain.now * 1000,
        newToken: () => (++ids).toString(16).padStart(8, '0'),
        newId: () => `id-${++ids}`,
        newChannelId: () => `channel-${++ids}`,
        verifyProvider: async () => ({ keyId: 'K', teamId: 'T', issuedAtS: 1_000_000 }),
      });
      const got: string[][] = [[], [], []];
      const tokens: (string | undefined)[] = [];
      const removed: string[] = [];
      const deliver = (of: number) => (push: DeliveredPush) => got[of]!.push(push.payload);
      const send = (token: string, text: string, expires?: number) =>
        gateway.answer('production', {
          method: 'POST',
          path: `/3/device/${token}`,
          headers: {
            authorization: 'bearer x',
            'apns-topic': APP,
            ...(expires !== undefined && { 'apns-expiration': String(plain.now + expires) }),
          },
          body: new TextEncoder().encode(text),
        });
      for (const [i, act] of history.entries()) {
        if (act.do === 'wait') plain.now += act.seconds;
        else if (act.do === 'register') {
          tokens[act.device] = gateway.register(`D${act.device}`, APP, 'production');
          plain.registered[act.device] = true;
        } else if (act.do === 'remove') {
          gateway.unregister(`D${act.device}`, APP);
          if (tokens[act.device] !== undefined) removed.push(tokens[act.device]!);
          tokens[act.device] = undefined;
          plain.registered[act.device] = false;
          plain.waiting[act.device] = undefined;
        } else if (act.do === 'connect') {
          gateway.connect(`D${act.device}`, deliver(act.device));
          plain.connect(act.device);
        } else if (act.do === 'disconnect') {
          gateway.disconnect(`D${act.device}`);
          plain.online[act.device] = false;
        } else {
          const { status } = await send(tokens[act.device] ?? 'ffffffff', `m${i}`, act.expires);
          expect(status).toBe(plain.send(act.device, `m${i}`, act.expires));
        }
        expect(got).toEqual(plain.got);
      }
      // a token that is gone stays gone, and no two apps ever share one
      for (const token of removed) expect((await send(token, 'x')).status).toBe(410);
      expect(new Set([...removed, ...tokens]).size).toBe(removed.length + new Set(tokens).size);
    }),
    { numRuns: 300 },
  );
});
