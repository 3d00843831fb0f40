/** `fenlok walk unseen`: the screen in front by what is said of it alone, in a terminal, with a key for each move. */
import {
  hearStop,
  meetScreen,
  type UnseenMove,
  type UnseenScore,
  unseenScore,
  unseenStep,
} from '../../../core/areas/accessibility/unseen-walk.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { outcomeMark } from '../../../core/reports/outcome-words.ts';
import type { Device } from '../../../device/device.ts';
import { activateStop, type HeardScreen, hearScreen } from '../../../device/in-hand/hear-screen.ts';
import { type Io, UsageError } from '../../io.ts';

const MOVES: Record<string, UnseenMove> = { n: 'next', p: 'previous', h: 'heading', c: 'control' };
const ENDS = ['q', '\u0003', '\u0004'];
const HELP =
  'n next   p previous   h next heading   c next control   Enter activate   b back   r say it again   q end';
const NO_MORE: Record<UnseenMove, string> = {
  next: 'That was the last stop.',
  previous: 'That was the first stop.',
  heading: 'There is no further heading.',
  control: 'There is no further control.',
};

// The OS's dump carries none; what a reader would find by them has to be found otherwise.
const noMore = (move: UnseenMove, stops: readonly { heading: boolean }[]): string =>
  move === 'heading' && !stops.some(({ heading }) => heading)
    ? 'The phone does not tell which stops are headings.'
    : NO_MORE[move];

/**
 * Until a person ends it, who looks away from the phone meanwhile.
 *
 * @param say what would be heard, line by line
 */
export async function walkUnseen(
  device: Device,
  locale: string,
  say: (line: string) => void,
  io: Io,
): Promise<UnseenScore> {
  if (!io.keys) throw new UsageError('walk unseen: it needs a terminal');
  const score = unseenScore();
  let screen: HeardScreen = await hearScreen(device, locale);
  let at = -1;
  const meet = () => {
    meetScreen(score, titleOf(screen), screen.stops);
    say(`— a screen with ${screen.stops.length} stops`);
  };
  const speak = () => {
    const stop = screen.stops[at];
    if (!stop) return say('At the top of the screen.');
    hearStop(score, titleOf(screen), stop, at);
    return say(
      stop.name ? printableText(stop.spoken.join(', ')) : `${outcomeMark.failed} nothing is said here`,
    );
  };
  const renew = async (activated?: string) => {
    const before = screen;
    screen = await hearScreen(device, locale);
    if (screen.hierarchy === before.hierarchy) {
      if (activated !== undefined) score.withoutAnswer.push(activated);
      return say('Nothing has changed.');
    }
    const isThere = screen.stops[at]?.key === before.stops[at]?.key;
    if (isThere && titleOf(screen) === titleOf(before)) return speak();
    at = -1;
    return meet();
  };
  const press = async (key: string) => {
    const move = MOVES[key];
    if (move) {
      score.presses += 1;
      const next = unseenStep(screen.stops, at, move);
      if (next === undefined) return say(noMore(move, screen.stops));
      at = next;
      return speak();
    }
    if (key === '\r' || key === '\n') {
      const stop = screen.stops[at];
      score.presses += 1;
      if (!stop) return say('At the top of the screen.');
      score.activated += 1;
      await activateStop(device, stop);
      return renew(stop.name || stop.key);
    }
    if (key === 'b') {
      score.presses += 1;
      await device.press('BACK');
      return renew();
    }
    return key === 'r' ? speak() : say(HELP);
  };
  await untilEnded(
    () => {
      io.err(`${HELP}\n`);
      meet();
    },
    press,
    io,
  );
  return score;
}

/**
 * Keys one after the other, however fast they are pressed.
 *
 * @param begin once keys are heard: before that the terminal would print them between the words
 * @throws what a press throws
 */
function untilEnded(begin: () => void, press: (key: string) => Promise<void>, io: Io): Promise<void> {
  return new Promise((resolve, reject) => {
    let work = Promise.resolve().then(begin);
    const end = () => {
      stopHearing?.();
      work.then(resolve, reject);
    };
    const stopHearing = io.keys?.((key) => {
      if (ENDS.includes(key)) end();
      else work = work.then(() => press(key));
      work.catch(end);
    });
    work.catch(end);
    io.signal.addEventListener('abort', end, { once: true });
  });
}

/** Screens of one activity are told apart by the first thing that is said. */
const titleOf = ({ activity, stops }: HeardScreen): string => `${activity} ${stops[0]?.name ?? ''}`.trim();

export function formatScore({ activated, presses, screens, withoutAnswer }: UnseenScore): string {
  const heard = screens.reduce((sum, screen) => sum + screen.heard.size, 0);
  const stops = screens.reduce((sum, screen) => sum + screen.stops, 0);
  const silent = screens.flatMap((screen) => [...screen.silent]);
  const s = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`;
  return [
    `Heard ${heard} of ${s(stops, 'stop')} on ${s(screens.length, 'screen')}, with ${s(presses, 'key')}; ${s(activated, 'time')} something was activated.`,
    ...(silent.length > 0
      ? [`${outcomeMark.failed} nothing is said at ${printableText([...new Set(silent)].join(', '))}`]
      : []),
    ...(withoutAnswer.length > 0
      ? [
          `${outcomeMark.cantTell} nothing that could be heard changed after ${printableText([...new Set(withoutAnswer)].join(', '))}`,
        ]
      : []),
    '',
  ].join('\n');
}
