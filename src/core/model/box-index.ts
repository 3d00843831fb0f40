/** Finds what lies in a part of the screen without looking at all of it: boxes by the squares of a grid that they touch. */
import type { Box } from './geometry.ts';

const SQUARE_PX = 128;

export interface BoxIndex<T> {
  /** Those that may touch the box, each once, in the order in which they were given. */
  near(box: Box): T[];
}

export function indexBoxes<T>(items: readonly T[], boxOf: (item: T) => Box): BoxIndex<T> {
  const squares = new Map<string, number[]>();
  for (const [i, item] of items.entries())
    for (const square of squaresOf(boxOf(item))) {
      const list = squares.get(square);
      if (list) list.push(i);
      else squares.set(square, [i]);
    }
  return {
    near: (box) =>
      [...new Set(squaresOf(box).flatMap((square) => squares.get(square) ?? []))]
        .sort((a, b) => a - b)
        .map((i) => items[i]!),
  };
}

function squaresOf({ height, width, x, y }: Box): string[] {
  const squares: string[] = [];
  for (let row = Math.floor(y / SQUARE_PX); row <= Math.floor((y + height) / SQUARE_PX); row++)
    for (let column = Math.floor(x / SQUARE_PX); column <= Math.floor((x + width) / SQUARE_PX); column++)
      squares.push(`${column} ${row}`);
  return squares;
}
