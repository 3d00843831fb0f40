/** Where the ad networks of a test answer: `fenlok standin ads --connection` makes such a file for the stand-in. */
import { z } from 'zod';
import { readYaml } from '../read-yaml.ts';

const adsFileSchema = z.strictObject({
  fenlok: z.literal('test-ads/1'),
  ads: z
    .string()
    .regex(/^http:\/\/127\.0\.0\.1:\d+$/, 'http://127.0.0.1:PORT: only a stand-in on this machine'),
  secret: z.string().min(1),
  networks: z.array(z.string()),
});
type AdsFile = z.infer<typeof adsFileSchema>;

/** @throws UnreadableError; no error shows the secret */
export const readAdsFile = async (file: string): Promise<AdsFile> =>
  (await readYaml(file, adsFileSchema)).value;

/** No answer, or none in time. */
class AdsOutOfReach extends Error {
  override name = 'OutOfReach';
}

export interface AdsClient {
  networks: readonly string[];
  /** Lets a network have something to show, or nothing. */
  setMode(network: string, mode: 'fill' | 'no-fill'): Promise<void>;
  /** Makes a device one for tests. */
  register(network: string, advertisingId: string): Promise<void>;
  /** What the networks saw from a place on, and the next place. */
  asked(after: number): Promise<{ asked: z.infer<typeof askedSchema>['asked']; next: number }>;
}

const askedSchema = z.object({
  asked: z.array(z.object({ network: z.string(), test: z.boolean(), isRegistered: z.boolean() })),
  next: z.number().int(),
});

const ANSWERS_WITHIN_MS = 10_000;

export function adsClient({ ads, networks, secret }: AdsFile): AdsClient {
  const call = async (path: string, body?: object): Promise<unknown> => {
    try {
      const response = await fetch(ads + path, {
        method: body ? 'POST' : 'GET',
        headers: { authorization: `Bearer ${secret}` },
        body: body && JSON.stringify(body),
        signal: AbortSignal.timeout(ANSWERS_WITHIN_MS),
      });
      if (!response.ok) throw new Error(`status ${response.status}`);
      return await response.json();
    } catch (cause) {
      throw new AdsOutOfReach(
        `the ad networks at ${ads} do not answer ${path}: ${(cause as Error).message}`,
        {
          cause,
        },
      );
    }
  };
  const control = async (order: object) => void (await call('/control', order));
  return {
    networks,
    setMode: (network, mode) => control({ do: 'mode', network, mode }),
    register: (network, advertisingId) => control({ do: 'register', network, advertisingId }),
    asked: async (after) => askedSchema.parse(await call(`/asked?after=${after}`)),
  };
}
