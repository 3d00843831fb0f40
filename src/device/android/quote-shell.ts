/** One word of a line of the device's shell, whatever is in it. */
export const quoteShell = (text: string): string => `'${text.replaceAll("'", "'\\''")}'`;
