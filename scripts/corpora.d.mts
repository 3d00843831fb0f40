/** The unpacked folder of a source package of that name; undefined where it cannot be had here. */
export function sourceFolder(name: string): string | undefined;
