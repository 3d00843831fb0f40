/** Sheets of all families from one seed. */
import { choices, families, type Random, seeded } from './families.ts';
import { arrange, type PaintedSheet, type Painter, paintSheet, type Slot } from './scene.ts';

const SCALES = [2, 2.625, 3, 3.5];
const SLOTS_PER_SHEET = 22;

export interface SheetPlan {
  seed: number;
  /** Of each family. */
  count: number;
  names?: readonly string[];
}

/** One after another, so that no more than one is held. */
export async function* drawSheets(
  { count, names = Object.keys(families), seed }: SheetPlan,
  painter: Painter,
): AsyncGenerator<PaintedSheet> {
  const random = seeded(seed);
  const queue = names.flatMap((name) => Array.from({ length: count }, (_, nth) => ({ name, nth })));
  shuffle(queue, random);
  for (let from = 0, n = 0; from < queue.length; from += SLOTS_PER_SHEET, n++) {
    const page = n % 3 === 2 ? '#141218' : '#fefefe';
    const slots = queue
      .slice(from, from + SLOTS_PER_SHEET)
      .map(({ name, nth }): Slot => families[name]!(choices(seeded(seedOf(seed, name, nth)), page)));
    yield await paintSheet(arrange(slots, SCALES[n % SCALES.length]!), page, painter);
  }
}

/** Each place draws from its own, so that a new family leaves those of the others as they are. */
function seedOf(seed: number, name: string, nth: number): number {
  let of = Math.imul(seed ^ 0x9e3779b9, 2654435761) ^ nth;
  for (const sign of name) of = Math.imul(of ^ sign.codePointAt(0)!, 16777619);
  return of >>> 0;
}

function shuffle<T>(list: T[], random: Random): void {
  for (let i = list.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [list[i], list[j]] = [list[j]!, list[i]!];
  }
}
