/** Where the ad networks of a test answer: `fenlok standin ads --write` makes such a file for the stand-in. */
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
export type AdsFile = z.infer<typeof adsFileSchema>;

/** @throws UnreadableError; no error shows the secret */
export const readAdsFile = async (file: string): Promise<AdsFile> =>
  (await readYaml(file, adsFileSchema)).value;

/** No answer, or none in time. */
export class AdsOutOfReach extends Error {
  override name = 'OutOfReach';
}

export interface AdsClient {
  networks: readonly string[];
  /** Lets a network have something to show, or nothing. */
  setMood(network: string, mood: 'fill' | 'no-fill'): Promise<void>;
  /** Makes a device one for tests. */
  register(network: string, advertisingId: string): Promise<void>;
}

const ANSWERS_WITHIN_MS = 10_000;

export function adsClient({ ads, networks, secret }: AdsFile): AdsClient {
  const control = async (order: object) => {
    const response = await fetch(`${ads}/control`, {
      method: 'POST',
      headers: { authorization: `Bearer ${secret}` },
      body: JSON.stringify(order),
      signal: AbortSignal.timeout(ANSWERS_WITHIN_MS),
    }).catch((cause: Error) => {
      throw new AdsOutOfReach(`the ad networks at ${ads} do not answer: ${cause.message}`, { cause });
    });
    if (!response.ok)
      throw new AdsOutOfReach(`the ad networks at ${ads} refuse it: status ${response.status}`);
  };
  return {
    networks,
    setMood: (network, mood) => control({ do: 'mood', network, mood }),
    register: (network, advertisingId) => control({ do: 'register', network, advertisingId }),
  };
}
