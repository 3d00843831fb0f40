import { readStoreFile } from '../../../node/store/store-file.ts';

/** What a phone needs of the store's file; the first of its testers where none is named. */
export async function storeFor(file: string, account: string | undefined) {
  const { secret, store, testers } = await readStoreFile(file);
  return { store, secret, account: account ?? testers[0] ?? 'tester' };
}
