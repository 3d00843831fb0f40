/**
 * What an app, and a drill around it, say of ads, one timed event a line. None of it is a conclusion: the app says *showed*,
 * and whether it was allowed to is worked out elsewhere.
 */
import { z } from 'zod';
import { traceLineSchema } from './trace.ts';

const { at } = traceLineSchema.shape;
const name = z.string().min(1).max(256);
const of = { at, device: name.default('this device') };

export const adLineSchema = z.discriminatedUnion('kind', [
  /** Who holds the device: one for development must never ask for live ads. */
  z.looseObject({
    ...of,
    kind: z.literal('ad.device'),
    isDevelopment: z.boolean(),
    /** Networks at which it is registered as a test device. */
    registered: z.array(name).default([]),
    /** Nobody knows its advertising id, so that no network could be told of it. */
    isIdUnknown: z.boolean().optional(),
  }),
  z.looseObject({ ...of, kind: z.literal('consent.asked') }),
  z.looseObject({ ...of, kind: z.literal('consent.given') }),
  z.looseObject({ ...of, kind: z.literal('consent.refused') }),
  z.looseObject({ ...of, kind: z.literal('ad.initialised'), network: name }),
  z.looseObject({
    ...of,
    kind: z.literal('ad.requested'),
    placement: name,
    network: name,
    /** Whether a test ad was asked for; undefined where the app does not say. */
    test: z.boolean().optional(),
  }),
  /** What a network of the test saw of a request, whatever the app says of it. */
  z.looseObject({
    ...of,
    kind: z.literal('ad.asked'),
    network: name,
    test: z.boolean(),
    isRegistered: z.boolean(),
  }),
  z.looseObject({ ...of, kind: z.literal('ad.loaded'), placement: name, network: name }),
  z.looseObject({
    ...of,
    kind: z.literal('ad.failed'),
    placement: name,
    network: name,
    /** `no-fill`: the network had nothing to show. */
    reason: z.string().max(1000),
  }),
  z.looseObject({ ...of, kind: z.literal('ad.showed'), placement: name, network: name.optional() }),
  z.looseObject({ ...of, kind: z.literal('ad.closed'), placement: name }),
]);
export type AdLine = z.infer<typeof adLineSchema>;
export type AdLineOf<K extends AdLine['kind']> = Extract<AdLine, { kind: K }>;

export const adKinds: ReadonlySet<string> = new Set(
  adLineSchema.options.map((option) => option.shape.kind.value),
);
export const isAdLine = (line: { kind: string }): line is AdLine => adKinds.has(line.kind);
