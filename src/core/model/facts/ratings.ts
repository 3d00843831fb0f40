/** Facts of the question for a rating. */
import type { RatingMoment } from '../rating.ts';
import type { OfCapture } from './base.ts';

/** One time that a trace shows an app around its question: from what came before until the next one. */
export interface RatingRoundFact extends OfCapture {
  kind: 'rating-round';
  /** Of a drill; `told` where the app alone says it. */
  round: 'first-start' | 'moment' | 'again' | 'told';
  at: string;
  deviceId: string;
  /** Which app installed it; empty for a cable, undefined where nobody looked. */
  installer?: string;
  /** Undefined where it was not asked. */
  asked?: { at: string; moment: RatingMoment; screen: string; done: string };
  /** Whether the platform's window was seen; undefined where nobody looked. */
  prompt?: boolean;
  /** The platform told the app that it is done. */
  finished: boolean;
  /** The app takes that for a question that was shown, or not. */
  claims?: 'shown' | 'not shown';
  thanked: boolean;
  /** What it gave for it. */
  gave: string;
  /** Its own stars came first. */
  ownStars: boolean;
  /** The app had crashed before, in this trace. */
  afterCrash: boolean;
  /** Whether the app was ready for its user afterwards; undefined where nobody could tell. */
  ready?: boolean;
}
