/** The unpacked folder of a source package of that name; undefined where it cannot be had here. */
export function sourceFolder(name: string): string | undefined;
/** Names of type designs; each is the source package `design-NAME`. */
export const DESIGNS: Record<string, [version: string, sha256: string]>;
/** Does it while no other process does. */
export function alone<T>(lock: string, work: () => T): T;
