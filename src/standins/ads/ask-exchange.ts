/** The same question without a wire, for a page that holds the networks itself. A network that is slow answers at once here. */
import {
  type AdAnswer,
  type AdDevice,
  type AdRequest,
  bidRequestOf,
  bodyIn,
  LARGEST_ANSWER_BYTES,
  readBid,
  tooLarge,
} from './bid-forms.ts';
import { type AdExchange, bidRequestSchema } from './exchange.ts';

export function askExchange(exchange: AdExchange, request: AdRequest, device: AdDevice): AdAnswer {
  const { network } = request;
  if (!exchange.has(network)) return { outcome: 'failed', reason: 'HTTP 404' };
  const id = `request-${exchange.asked.length + 1}`;
  const bid = exchange.bid(network, bidRequestSchema.parse(bidRequestOf(id, request, device)));
  const mode = exchange.modeOf(network);
  if (mode === 'drop') return { outcome: 'failed', reason: 'no connection' };
  if (!bid) return { outcome: 'no-fill' };
  const body = bodyIn(mode, bid);
  return body.length > LARGEST_ANSWER_BYTES ? tooLarge : readBid(body, request);
}
