import { z } from 'zod';

export const platformSchema = z.enum(['android', 'ios']);
export type Platform = z.infer<typeof platformSchema>;

/**
 * Names one build. A file's own digest is not enough, since stores split and sign bundles again;
 * `code` is the SHA-256 over the code files' digests (dex files in their order), 16 hex digits of it.
 */
export const buildKeySchema = z.strictObject({
  appId: z.string().min(1),
  version: z.string(),
  build: z.string(),
  code: z.string(),
});
export type BuildKey = z.infer<typeof buildKeySchema>;

export const formatBuild = (key: BuildKey): string =>
  `${key.appId} ${key.version} (${key.build}) code ${key.code}`;

export const sameBuild = (a: BuildKey, b: BuildKey): boolean =>
  a.appId === b.appId && a.version === b.version && a.build === b.build && a.code === b.code;
