/** The known word that was probably meant: fewest edits (Levenshtein), if those are few for its length. */
export function nearest(word: string, known: readonly string[]): string | undefined {
  const scored = known.map((candidate) => ({
    candidate,
    edits: editDistance(word.toLowerCase(), candidate.toLowerCase()),
  }));
  const [best] = scored.sort((a, b) => a.edits - b.edits);
  return best && best.edits <= Math.max(2, Math.ceil(word.length / 3)) ? best.candidate : undefined;
}

function editDistance(a: string, b: string): number {
  let previous = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const current = [i];
    for (let j = 1; j <= b.length; j++)
      current.push(
        Math.min(current[j - 1]! + 1, previous[j]! + 1, previous[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)),
      );
    previous = current;
  }
  return previous[b.length]!;
}
