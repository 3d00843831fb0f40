import { adsMatrix } from './ads.ts';
import type { Matrix } from './matrix.ts';
import { messagesMatrix } from './messages.ts';
import { purchasesMatrix } from './purchases.ts';
import { routesMatrix } from './routes.ts';

/** Every table of the judgement, in the order in which reports show them. */
export const matrices: readonly Matrix[] = [routesMatrix, messagesMatrix, purchasesMatrix, adsMatrix];
