/** Bugs that users write of in the store are fixed or answered before the next version goes out. */

import { z } from 'zod';
import type { ReviewsFact } from '../../../model/facts/listing.ts';
import type { Intent } from '../../../model/intent.ts';
import type { ReviewColumn } from '../../../model/review.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { complaintsIn } from '../bug-words.ts';

const dataSchema = z.strictObject({
  flaw: z.enum(['open', 'came-back', 'unnamed']),
  bug: z.string(),
  count: z.number(),
  versions: z.array(z.string()),
  devices: z.array(z.string()),
  excerpt: z.string(),
  fixedIn: z.string(),
});
type Data = z.infer<typeof dataSchema>;

/** Fewer people may have another trouble. */
const LEAST = 3;
const UNHAPPY_STARS = 3;
/** What tables call them, where the intent file does not say. */
const USUAL: Record<ReviewColumn, RegExp> = {
  text: /^(?:text|review|review text|body|comment|content)$/i,
  version: /^(?:version|app version|app version name|version name)$/i,
  device: /^(?:device|device model|reviewer device|model)$/i,
  stars: /^(?:stars|rating|star rating|score)$/i,
};

interface Review {
  text: string;
  version: string;
  device: string;
  /** 0 where the table has none. */
  stars: number;
}

export const knownBug = defineCheck({
  id: 'known-bug',
  area: 'listing',
  priority: 'harder',
  standard: 'Our own: reviews of the store, and what the team says of them in fenlok.yaml',
  basis: 'either',
  needs: 'reviews',
  data: dataSchema,
  words: ({ bug, count, devices, excerpt, fixedIn, flaw, versions }) => {
    const who = `${count === 1 ? '1 review' : `${count} reviews`}${versions.length > 0 ? `, of version ${versions.join(', ')}` : ''}${devices.length > 0 ? `; most on ${devices.join(', ')}` : ''}`;
    switch (flaw) {
      case 'open':
        return {
          what: `A bug that users write of is neither fixed nor answered: ${bug}`,
          measured: `${who}: ${quote(excerpt)}`,
          required: 'fixed, answered, or shown that it cannot be reproduced',
          why: 'Those who wrote look first whether the next version has it, and say so.',
          remedy: 'Fix it or answer it in the store, and say so under reviews.bugs.',
        };
      case 'came-back':
        return {
          what: `A bug that is said to be fixed in ${fixedIn} is written of again: ${bug}`,
          measured: `${who}: ${quote(excerpt)}`,
          required: `no such review of ${fixedIn} or later`,
          why: 'It was fixed in one place, or for one device.',
          remedy: 'Read these reviews, and try it on the devices that they name.',
        };
      default:
        return {
          what: `Users write that ${bug}, and no bug of the list says it`,
          measured: `${who}: ${quote(excerpt)}`,
          required: 'a bug with a state under reviews.bugs',
          why: 'Several people with the same trouble are a bug that can mostly be shown again.',
          remedy: 'Name it under reviews.bugs, with words that its reviews have, and its state.',
        };
    }
  },

  *run(facts, { reviews: { bugs, columns } }): Iterable<Assertion<Data>> {
    for (const fact of facts.of('reviews')) {
      const named = columnsOf(fact, columns);
      if (!named.text) {
        yield {
          outcome: 'untested',
          because: `no column of ${fact.file} is known to hold the text: name it under reviews.columns`,
        };
        continue;
      }
      const reviews = fact.rows.map((row) => reviewOf(row, named)).filter(({ text }) => text !== '');
      const explained = new Set<Review>();
      for (const bug of bugs) {
        const own = reviews.filter((review) =>
          bug.words.some((word) => review.text.toLowerCase().includes(word.toLowerCase())),
        );
        for (const review of own) explained.add(review);
        const later = bug.in === undefined ? [] : own.filter(({ version }) => isSince(version, bug.in!));
        if (bug.state === 'open' && own.length > 0) yield found(fact, 'open', bug.id, own, '');
        else if (bug.state === 'fixed' && later.length > 0)
          yield found(fact, 'came-back', bug.id, later, bug.in!);
        else yield { outcome: 'passed' };
      }
      const unhappy = reviews.filter((review) => !explained.has(review) && review.stars <= UNHAPPY_STARS);
      const complaints = new Map<string, Review[]>();
      for (const review of unhappy)
        for (const what of complaintsIn(review.text))
          complaints.set(what, [...(complaints.get(what) ?? []), review]);
      for (const [what, own] of complaints)
        if (own.length >= LEAST) yield found(fact, 'unnamed', what, own, '');
      yield { outcome: 'passed' };
    }
  },

  doc: {
    looksAt: 'Reviews that were added (`fenlok add reviews.csv`), and `reviews.bugs` of `fenlok.yaml`',
    against:
      'Each bug has a state; none that is fixed comes back; three and more of the same complaint have a bug',
    matters: 'A bug that is known and goes out again costs more stars than it did the first time.',
    measured:
      'Reviews that have the words of a bug; of the others those of three stars and fewer, by words of four matters in many languages.',
    errs: 'Words are no understanding: what the list does not have is not seen, and what comes back or has no name is estimated.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'reviews:\n  columns: { text: Review Text, version: App Version Name, device: Device, stars: Star Rating }\n  bugs:\n    - { id: ticket-lost, words: [ticket disappeared, ticket gone], state: fixed, in: 2.4.0 }',
      },
    ],
  },
});

type Columns = Partial<Record<ReviewColumn, string>>;

function columnsOf({ rows }: ReviewsFact, said: Intent['reviews']['columns']): Columns {
  const names = [...new Set(rows.slice(0, 100).flatMap((row) => Object.keys(row)))];
  const find = (column: ReviewColumn) => said[column] ?? names.find((name) => USUAL[column].test(name));
  return { text: find('text'), version: find('version'), device: find('device'), stars: find('stars') };
}

function reviewOf(row: Readonly<Record<string, string>>, named: Columns): Review {
  const cell = (column: ReviewColumn) =>
    named[column] === undefined ? '' : (row[named[column]] ?? '').trim();
  return {
    text: cell('text'),
    version: cell('version'),
    device: cell('device'),
    stars: Number(cell('stars')) || 0,
  };
}

function found(
  { evidence }: ReviewsFact,
  flaw: Data['flaw'],
  bug: string,
  reviews: readonly Review[],
  fixedIn: string,
): Assertion<Data> {
  const isSure = flaw === 'open';
  return {
    outcome: isSure ? 'failed' : 'cantTell',
    draft: {
      identity: { subject: bug, aspect: flaw },
      basis: isSure ? 'measured' : 'estimated',
      severity: Math.min(10, Math.log2(reviews.length + 1)),
      digest: flaw,
      occurrence: {
        evidence,
        shown: bug,
        data: {
          flaw,
          bug,
          count: reviews.length,
          versions: commonest(reviews.map(({ version }) => version)),
          devices: commonest(reviews.map(({ device }) => device)),
          excerpt: reviews[0]!.text.slice(0, 120),
          fixedIn,
        },
      },
    },
  };
}

/** At most three, the commonest first. */
function commonest(names: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const name of names) if (name !== '') counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts]
    .sort(([, a], [, b]) => b - a)
    .slice(0, 3)
    .map(([name]) => name);
}

/** Whether one version is another or comes after it, number by number; one that is no version is not. */
function isSince(version: string, since: string): boolean {
  const [own, other] = [version, since].map((one) => one.match(/\d+/g)?.map(Number) ?? []) as [
    number[],
    number[],
  ];
  if (own.length === 0) return false;
  for (let i = 0; i < Math.max(own.length, other.length); i++) {
    const [a, b] = [own[i] ?? 0, other[i] ?? 0];
    if (a !== b) return a > b;
  }
  return true;
}
