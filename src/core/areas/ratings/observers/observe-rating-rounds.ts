import type { Cell } from '../../../model/cell.ts';
import type { RatingRoundFact } from '../../../model/facts/ratings.ts';
import { isRatingLine, type RatingLine } from '../../../model/rating.ts';
import type { DrillLine, SeenLine, TraceLine } from '../../../model/trace.ts';
import { placeNodes } from '../../../model/ui-tree.ts';
import { crashInLog } from '../../lifecycle/runs/crash-in-log.ts';
import type { TraceObserver } from '../../observer.ts';

const ANYWHERE: Cell = {
  screen: 'app',
  locale: 'und',
  theme: 'light',
  textScale: 1,
  device: 'unnamed',
  orientation: 'portrait',
  procedure: 'ratings',
  step: '',
};

/** Each time that an app asks for a rating, or was expected to: what came before, what was seen, how it went on. */
export const observeRatingRounds = {
  id: 'rating-rounds',
  reads: 'trace',
  *observe({ digest, lines: all, platform }) {
    const lines = all as (TraceLine | DrillLine | SeenLine)[];
    if (!lines.some(isRatingLine)) return;
    const began = lines.find(
      (line): line is DrillLine & { kind: 'drill.began' } => line.kind === 'drill.began',
    );
    const channel = lines.find(
      (line): line is RatingLine & { kind: 'rating.channel' } => line.kind === 'rating.channel',
    );
    let open: RatingRoundFact | undefined;
    const log: { tag: string; message: string }[] = [];
    const begin = (at: string, round: RatingRoundFact['round']): RatingRoundFact => ({
      kind: 'rating-round',
      platform,
      evidence: digest,
      cell: began?.cell ?? ANYWHERE,
      round,
      at,
      deviceId: began?.deviceId ?? '',
      ...(channel && { installer: channel.installer }),
      finished: false,
      thanked: false,
      gave: '',
      ownStars: open !== undefined && !open.asked && open.ownStars,
      afterCrash: crashInLog(log, began?.appId ?? '') !== undefined,
    });
    for (const line of lines) {
      if (line.kind === 'log.line') log.push({ tag: String(line.tag), message: String(line.message) });
      if (line.kind === 'screen.seen' && open && !open.asked && showsStars(line as SeenLine))
        open.ownStars = true;
      if (!isRatingLine(line)) continue;
      if (line.kind === 'rating.round') {
        if (open) yield open;
        open = begin(line.at, line.round);
      } else if (line.kind === 'rating.asked') {
        // without a drill each question is a round of its own, with what came before it
        if (!open || open.asked) {
          if (open) yield open;
          open = begin(line.at, 'told');
        }
        const { at, done, moment, screen } = line;
        open.asked = { at, done, moment, screen };
        open.afterCrash = crashInLog(log, began?.appId ?? '') !== undefined;
      } else if (line.kind !== 'rating.channel') {
        open ??= begin(line.at, 'told');
        apply(open, line);
      }
    }
    if (open) yield open;
  },
} satisfies TraceObserver;

function apply(round: RatingRoundFact, line: RatingLine): void {
  switch (line.kind) {
    case 'rating.finished':
      round.finished = true;
      if (line.shown !== undefined) round.claims = line.shown ? 'shown' : 'not shown';
      break;
    case 'rating.thanked':
      round.thanked = true;
      round.gave ||= line.gave;
      break;
    case 'rating.stars':
      if (!round.asked) round.ownStars = true;
      break;
    case 'rating.front':
      round.prompt = line.prompt;
      break;
    case 'rating.after':
      if (line.ready !== undefined) round.ready = line.ready;
  }
}

/** The platform's own kind of element for stars, in a window of the app. */
const showsStars = ({ tree }: SeenLine): boolean =>
  tree !== undefined &&
  placeNodes(tree).some(({ node }) => node.visible && /\bRatingBar$/.test(node.className));
