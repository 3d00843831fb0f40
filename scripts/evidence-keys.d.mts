export function evidenceKeys(
  folder: string,
  readers?: Record<string, readonly string[]>,
  observers?: Record<string, readonly string[]>,
): Record<string, string>;
export function writeEvidenceKeys(folder: string): void;
