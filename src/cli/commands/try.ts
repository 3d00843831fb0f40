import type { AddCommand } from './options.ts';
import { addContrast } from './try/contrast.ts';
import { addLink } from './try/link.ts';
import { addPayload } from './try/payload.ts';
import { addPresses } from './try/presses.ts';
import { addPseudo } from './try/pseudo.ts';
import { addRenewals } from './try/renewals.ts';
import { addStops } from './try/stops.ts';
import { addVariant } from './try/variant.ts';

/** `fenlok try`: the calculators behind the checks. */
export const tryCommand: AddCommand = (program, io, finish) => {
  const group = program.command('try').description('ask one of the calculators');
  addContrast(group, io);
  addStops(group, io);
  addPresses(group, io);
  addVariant(group, io);
  addLink(group, io);
  addPayload(group, io, finish);
  addRenewals(group, io);
  addPseudo(group, io);
};
