import { type AddCommand, addCommands, type CommandEntry } from '../command-table.ts';

const COMMANDS: Record<string, CommandEntry> = {
  contrast: {
    about: 'contrast of two colours, or of the text or icon in a box of a picture',
    load: async () => (await import('./try/contrast.ts')).contrastCommand,
  },
  stops: {
    about: 'where a screen reader stops on a screen, and what it has to say there',
    load: async () => (await import('./try/stops.ts')).stopsCommand,
  },
  presses: {
    about: 'switch scanning: order, presses and seconds to each control of a screen',
    load: async () => (await import('./try/presses.ts')).pressesCommand,
  },
  variant: {
    about: 'which variant of a resource a device uses, and why each other candidate lost',
    load: async () => (await import('./try/variant.ts')).variantCommand,
  },
  link: {
    about: 'who opens a URL on a device, by which filter and with which arguments, and why nobody else',
    load: async () => (await import('./try/link.ts')).linkCommand,
  },
  payload: {
    about: 'what is wrong with a push message, and how it reads in each language; or send it to a gateway',
    load: async () => (await import('./try/payload.ts')).payloadCommand,
  },
  renewals: {
    about: 'when a subscription starts, renews and ends in a test store that shortens time',
    load: async () => (await import('./try/renewals.ts')).renewalsCommand,
  },
  pseudo: {
    about: 'write a catalogue in a made-up language: longer and accented, or mirrored',
    load: async () => (await import('./try/pseudo.ts')).pseudoCommand,
  },
};

/** `fenlok try`: the calculators behind the checks. */
export const tryCommand: AddCommand = (group, context) => addCommands(group, COMMANDS, context);
