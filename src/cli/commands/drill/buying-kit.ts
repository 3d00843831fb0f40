import type { Device } from '../../../device/device.ts';
import type { BuyingKit } from '../../../device/drills/walks/buy.ts';
import { findCandidate } from '../../../device/installed-build.ts';
import type { Dossier } from '../../../node/dossier.ts';
import { storeClient } from '../../../node/store/store-client.ts';
import { readStoreFile } from '../../../node/store/store-file.ts';
import { UsageError } from '../../io.ts';

/** @throws UsageError where the store sells for another app */
export async function buyingKit(
  storeFile: string,
  { candidate }: Dossier,
  second: Device | undefined,
): Promise<BuyingKit> {
  const file = await readStoreFile(storeFile);
  if (file.app !== candidate.build.appId)
    throw new UsageError(
      `--store ${storeFile}: it sells for ${file.app}, and this is ${candidate.build.appId}`,
    );
  return {
    client: storeClient(file),
    ...(second && { second: { device: second, app: (await findCandidate(second, candidate.build)).app } }),
  };
}
