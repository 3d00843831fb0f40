export const lastName = (name: unknown): string => String(name).replace(/^.*[./]/, '');
