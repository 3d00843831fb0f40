import type { AddCommand } from './options.ts';
import { addAds } from './standin/ads.ts';
import { addMessages } from './standin/messages.ts';
import { addPhone } from './standin/phone.ts';
import { addPush } from './standin/push.ts';
import { addStore } from './standin/store.ts';

/** `fenlok standin …`: simulated surroundings of an app, until Ctrl-C. */
export const standinCommand: AddCommand = (program, io) => {
  const group = program
    .command('standin')
    .description(
      'run a stand-in: a small simulated phone that bridge clients can drive, the push services of iOS and Android, a test store, or ad networks',
    );
  addPhone(group, io);
  addPush(group, io);
  addMessages(group, io);
  addStore(group, io);
  addAds(group, io);
};
