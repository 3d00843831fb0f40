export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks again and again until it is so. @returns whether it came to be */
export async function until(isSo: () => Promise<boolean>, withinMs: number): Promise<boolean> {
  const end = Date.now() + withinMs;
  for (let wait = 15; ; wait = Math.min(wait * 1.5, 300)) {
    if (await isSo()) return true;
    if (Date.now() > end) return false;
    await pause(wait);
  }
}
