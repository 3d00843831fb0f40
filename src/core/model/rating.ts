/**
 * The question for a rating: what an app says of it in traces, one timed event a line, and the channels that a build comes through.
 * None of it is a conclusion: the platform tells an app that it is done whether or not anything was shown.
 */
import { z } from 'zod';
import { traceLineSchema } from './trace.ts';

const { at } = traceLineSchema.shape;

/** When an app asks: what has just happened to its user. */
const ratingMoments = ['start', 'button', 'during', 'done', 'after-crash', 'other'] as const;
export type RatingMoment = (typeof ratingMoments)[number];

/** The way by which a build comes to a device; it decides whether the platform shows anything. */
export const ratingChannels = ['local', 'private-share', 'test-track', 'beta', 'production'] as const;
export type RatingChannel = (typeof ratingChannels)[number];

export const ratingLineSchema = z.discriminatedUnion('kind', [
  z.looseObject({
    at,
    kind: z.literal('rating.asked'),
    moment: z.enum(ratingMoments).default('other'),
    screen: z.string().max(200).default(''),
    /** What the user has done before, for people. */
    done: z.string().max(500).default(''),
  }),
  /** The platform told the app that it is done. */
  z.looseObject({
    at,
    kind: z.literal('rating.finished'),
    /** What the app takes it for; left out where it takes it for nothing. */
    shown: z.boolean().optional(),
  }),
  /** The app thanked, or gave something. */
  z.looseObject({ at, kind: z.literal('rating.thanked'), gave: z.string().max(200).default('') }),
  /** The app showed stars of its own. */
  z.looseObject({ at, kind: z.literal('rating.stars') }),

  // What a drill writes around it.
  /** Which app had installed it, as the device reads it; empty where it came over a cable. */
  z.looseObject({ at, kind: z.literal('rating.channel'), installer: z.string() }),
  z.looseObject({ at, kind: z.literal('rating.round'), round: z.enum(['first-start', 'moment', 'again']) }),
  /** Whether a window of the store was in front. */
  z.looseObject({ at, kind: z.literal('rating.front'), prompt: z.boolean() }),
  /** Whether the app was ready for its user afterwards; without `ready` nobody could tell. */
  z.looseObject({ at, kind: z.literal('rating.after'), ready: z.boolean().optional() }),
]);
export type RatingLine = z.infer<typeof ratingLineSchema>;

export const ratingKinds: ReadonlySet<string> = new Set(
  ratingLineSchema.options.map((option) => option.shape.kind.value),
);
export const isRatingLine = (line: { kind: string }): line is RatingLine => ratingKinds.has(line.kind);
