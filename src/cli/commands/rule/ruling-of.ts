import type { Finding } from '../../../core/model/finding.ts';
import { type Ruling, rulingSchema } from '../../../core/model/ruling.ts';
import { formatPlaces } from '../../../core/reports/outline.ts';
import { type Io, UsageError } from '../../io.ts';

interface RulingOptions {
  as: Ruling['ruling'];
  why: string;
  by?: string | undefined;
  until?: string | undefined;
  untilBuild?: string | undefined;
}

/** @throws UsageError where a value is none */
export function rulingOf(finding: Finding, options: RulingOptions, io: Io): Ruling {
  const parsed = rulingSchema.safeParse({
    finding: finding.id,
    about: `${finding.check}: ${formatPlaces(finding)}`,
    digest: finding.digest,
    ruling: options.as,
    why: options.why,
    by: whoSays(io, options.by),
    at: io.now().toISOString().slice(0, 10),
    until: options.until,
    untilBuild: options.untilBuild,
  });
  if (!parsed.success)
    throw new UsageError(`--${String(parsed.error.issues[0]!.path[0])}: ${parsed.error.issues[0]!.message}`);
  return parsed.data;
}

export function whoSays(io: Io, given: string | undefined): string {
  const name = given ?? io.env.FENLOK_NAME;
  if (!name) throw new UsageError('say who decides, with --by NAME or the environment variable FENLOK_NAME');
  return name;
}
