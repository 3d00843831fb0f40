export const NEWEST: string;
export function fetchNode(): string | undefined;
