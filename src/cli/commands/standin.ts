import { type AddCommand, addCommands, type CommandEntry } from '../command-table.ts';

const COMMANDS: Record<string, CommandEntry> = {
  phone: {
    about: 'boot a phone and keep it on a port of this machine until Ctrl-C',
    load: async () => (await import('./standin/phone.ts')).phoneCommand,
  },
  push: {
    about: 'run the push gateway of iOS for both environments (HTTP/2 over TLS on loopback) until Ctrl-C',
    load: async () => (await import('./standin/push.ts')).pushCommand,
  },
  messages: {
    about: "run Android's messaging service (HTTP on loopback), for two projects, until Ctrl-C",
    load: async () => (await import('./standin/messages.ts')).messagesCommand,
  },
  tool: {
    about: 'install or remove an app on a stand-in iOS phone, as the tools of a real one do',
    load: async () => (await import('./standin/tool.ts')).toolCommand,
  },
  store: {
    about: 'run a test store (HTTP on loopback): it sells, renews, refunds and signs, on a clock of its own',
    load: async () => (await import('./standin/store.ts')).storeCommand,
  },
  ads: {
    about: 'run ad networks that answer bid requests (OpenRTB over HTTP on loopback)',
    load: async () => (await import('./standin/ads.ts')).adsCommand,
  },
};

/** `fenlok standin …`: simulated surroundings of an app, until Ctrl-C. */
export const standinCommand: AddCommand = (group, context) => addCommands(group, COMMANDS, context);
