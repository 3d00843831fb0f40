/** Pictures of a listing have the sizes, forms and numbers that the store takes. */

import { z } from 'zod';
import type { ListingFact } from '../../../model/facts/listing.ts';
import type { ListingPicture, ListingRole } from '../../../model/listing.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { NO_LISTING, ownListings, pictureLimits, storeNames } from '../limits.ts';

const dataSchema = z.strictObject({
  fault: z.enum(['size', 'format', 'alpha', 'colours', 'animated', 'bytes', 'count', 'missing']),
  called: z.string(),
  file: z.string(),
  store: z.string(),
  locale: z.string(),
  measured: z.string(),
  required: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const listingPicture = defineCheck({
  id: 'listing-picture',
  area: 'listing',
  priority: 'wrong',
  standard: 'Google Play, Add preview assets; Apple, Screenshot specifications',
  basis: 'measured',
  needs: 'listing',
  data: dataSchema,
  words: ({ called, fault, file, locale, measured, required, store }) => ({
    what: `${file ? `${file}: the` : 'The'} ${called} of the ${store} listing in ${locale} ${WHAT[fault]}`,
    measured,
    required: `${required} (${store})`,
    why: 'The store refuses the picture, or the whole listing with it.',
    remedy: REMEDY[fault],
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const listings = ownListings(facts);
    if (listings.length === 0) yield NO_LISTING;
    for (const listing of listings)
      for (const [role, limit] of Object.entries(pictureLimits[listing.store])) {
        const own = listing.pictures.filter((picture) => picture.role === (role as ListingRole));
        const [least, most] = limit.count ?? [1, 1];
        // stores show the pictures of the first language where a translation has none of its own
        const isNowhere = !listings.some(({ pictures }) => pictures.some((picture) => picture.role === role));
        if (own.length === 0)
          yield limit.isNeeded && isNowhere && listing === listings[0]
            ? found(listing, role, {
                fault: 'missing',
                called: limit.called,
                file: '',
                measured: 'none',
                required: least > 1 ? `${least} at least` : 'one',
              })
            : { outcome: 'inapplicable' };
        else if (own.length < least || own.length > most)
          yield found(listing, role, {
            fault: 'count',
            called: limit.called,
            file: '',
            measured: String(own.length),
            required: `${least} to ${most}`,
          });
        for (const picture of own) {
          const faults = [...faultsOf(picture, limit)];
          if (faults.length === 0) yield { outcome: 'passed' };
          for (const fault of faults)
            yield found(listing, `${role} ${picture.file}`, {
              ...fault,
              called: limit.called,
              file: picture.file,
            });
        }
      }
  },

  doc: {
    looksAt: 'Icon, feature graphic and screenshots of each listing of the store that the candidate goes to',
    against:
      'Pixel sizes, proportions, formats, transparency, colours, bytes and numbers that the store takes',
    matters: 'A store refuses them on the day of the release, language by language.',
    measured:
      'What the head of each file says, and how large it is. What is missing in one language and there in another is not missing: stores fall back on it.',
    errs: 'Sizes change with each new device: they are of November 2026. What a picture shows is not looked at.',
    fixes: [
      {
        where: 'listing/google-play-de.yaml',
        language: 'yaml',
        code: 'pictures:\n  icon: icon.png            # 512 × 512\n  banner: banner.png        # 1024 × 500, no alpha\n  phone: [de/home.png, de/ticket.png]',
      },
    ],
  },
});

const WHAT: Record<Data['fault'], string> = {
  size: 'has a size that is not taken',
  format: 'is in a format that is not taken',
  alpha: 'is transparent, or could be',
  colours: 'is not in RGB',
  animated: 'moves',
  bytes: 'is too large',
  count: 'is not there in the right number',
  missing: 'is missing',
};
const REMEDY: Record<Data['fault'], string> = {
  size: 'Make it again at a size that is taken: scaled up it blurs.',
  format: 'Save it in another format.',
  alpha: 'Save it without an alpha channel.',
  colours: 'Convert it to sRGB.',
  animated: 'Take a single picture.',
  bytes: 'Pack it better.',
  count: 'Add some, or take some out.',
  missing: 'Add it, and name it under pictures.',
};

type Limit = NonNullable<(typeof pictureLimits)['google-play']['icon']>;

function* faultsOf(
  { format, frames, hasAlpha, heightPx, sizeBytes, space, widthPx }: ListingPicture,
  { formats, mayHaveAlpha, mostBytes, ratio, sides, sizes }: Limit,
): Iterable<Pick<Data, 'fault' | 'measured' | 'required'>> {
  const [short, long] = [Math.min(widthPx, heightPx), Math.max(widthPx, heightPx)];
  const measured = `${widthPx} × ${heightPx} px`;
  if (sizes && !sizes.some(([a, b]) => Math.min(a, b) === short && Math.max(a, b) === long))
    yield { fault: 'size', measured, required: sizes.map(([a, b]) => `${a} × ${b}`).join(', ') };
  if (sides && (short < sides[0] || long > sides[1]))
    yield { fault: 'size', measured, required: `each side ${sides[0]} to ${sides[1]} px` };
  if (ratio && long > ratio * short)
    yield { fault: 'size', measured, required: `the longer side at most ${ratio} times the shorter` };
  if (!formats.includes(format)) yield { fault: 'format', measured: format, required: formats.join(' or ') };
  if (hasAlpha && !mayHaveAlpha)
    yield { fault: 'alpha', measured: 'an alpha channel', required: 'no alpha channel' };
  if (/cmyk|lab/.test(space)) yield { fault: 'colours', measured: space, required: 'RGB' };
  if (frames > 1) yield { fault: 'animated', measured: `${frames} frames`, required: 'one frame' };
  if (mostBytes !== undefined && sizeBytes > mostBytes)
    yield { fault: 'bytes', measured: `${sizeBytes} bytes`, required: `${mostBytes} bytes at most` };
}

const found = (
  { evidence, locale, store }: ListingFact,
  of: string,
  data: Omit<Data, 'locale' | 'store'>,
): Assertion<Data> => ({
  outcome: 'failed',
  draft: {
    identity: { subject: `${store} ${locale}`, aspect: `${of} ${data.fault}` },
    basis: 'measured',
    severity: 1,
    digest: data.measured,
    occurrence: {
      evidence,
      shown: data.file || data.called,
      data: { ...data, locale, store: storeNames[store] },
    },
  },
});
