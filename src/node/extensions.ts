/**
 * A team's own checks, networks and report formats: modules beside its intent file, named there under `extensions`. They are code
 * of the team, run with its rights; a dossier or a piece of evidence never names any.
 */
import { realpath } from 'node:fs/promises';
import { dirname, isAbsolute, join, relative, sep } from 'node:path';
import { pathToFileURL } from 'node:url';
import { z } from 'zod';
import type { Check } from '../core/areas/check.ts';
import { checks as shippedChecks } from '../core/areas/checks.ts';
import { type AdNetwork, adNetworkSchema } from '../core/model/ad-network.ts';
import { areaSchema } from '../core/model/checklist.ts';
import { factSources } from '../core/model/fact-sources.ts';
import { priorities } from '../core/model/finding.ts';
import type { Judgement } from '../core/model/judgement.ts';
import { limitsSchema } from '../core/model/limits.ts';
import { UnreadableError } from '../core/model/problem.ts';
import { exists } from './dossier.ts';

/** One report of a judgement in a form of the team's own. */
export interface ReportFormat {
  /** The file in the folder of reports: `release.md`. */
  file: string;
  write(judgement: Judgement): string;
}

/** What the module of an extension has as its default export. */
export interface Extension {
  checks?: readonly Check[];
  networks?: readonly AdNetwork[];
  reports?: readonly ReportFormat[];
}

export interface LoadedExtension extends Required<Extension> {
  /** As the intent file names it. */
  module: string;
}

/** Types what a module exports; it changes nothing. */
export const defineExtension = (extension: Extension): Extension => extension;

const isFunction = (value: unknown): boolean => typeof value === 'function';
const callable = z.custom<() => unknown>(isFunction, 'a function');
const kinds = Object.keys(factSources);
const kindSchema = z
  .string()
  .refine((kind) => kinds.includes(kind), { error: 'a kind of fact that Fenlok knows' });
const text = z.string().min(1);

const checkSchema = z.looseObject({
  id: z.string().regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'lower case and dashes'),
  area: areaSchema,
  priority: z.enum(priorities),
  standard: text,
  basis: z.enum(['measured', 'estimated', 'either']),
  needs: kindSchema,
  reads: z.array(kindSchema),
  limits: z.array(z.enum(Object.keys(limitsSchema.shape))),
  data: z.custom<object>(
    (value) => isFunction((value as { parse?: unknown } | null)?.parse),
    'a schema with a function `parse`',
  ),
  words: callable,
  run: callable,
  doc: z.looseObject({
    looksAt: text,
    against: text,
    matters: text,
    measured: text,
    errs: text,
    fixes: z.array(z.looseObject({ where: text, language: text, code: text })),
  }),
});

const extensionSchema = z.strictObject({
  checks: z.array(checkSchema).default([]),
  networks: z.array(adNetworkSchema).default([]),
  reports: z
    .array(
      z.strictObject({
        file: z.string().regex(/^[\w-][\w.-]*$/, 'the name of a file, without a folder'),
        write: callable,
      }),
    )
    .default([]),
});

/** @throws UnreadableError with module and place where one is missing, lies elsewhere, or is not what it should be */
export async function loadExtensions(
  intentFile: string,
  modules: readonly string[],
): Promise<LoadedExtension[]> {
  const loaded: LoadedExtension[] = [];
  const known = new Set(shippedChecks.map(({ id }) => id));
  for (const module of modules) {
    const extension = { module, ...(await loadOne(intentFile, module)) };
    for (const { id } of extension.checks) {
      if (known.has(id)) throw refused(module, `the check "${id}"`, 'an id that no other check has');
      known.add(id);
    }
    loaded.push(extension);
  }
  return loaded;
}

async function loadOne(intentFile: string, module: string): Promise<Required<Extension>> {
  const file = join(dirname(intentFile), module);
  if (!(await exists(file))) throw refused(module, 'no such file', 'a module beside the intent file');
  const from = relative(await realpath(dirname(intentFile)), await realpath(file));
  if (isAbsolute(from) || from.split(sep)[0] === '..')
    throw refused(
      module,
      `a module elsewhere (${from})`,
      'one in the folder of the intent file, or below it',
    );
  const exported = await importModule(file, module);
  const parsed = extensionSchema.safeParse(exported.default);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw refused(
      module,
      issue!.message,
      'what defineExtension takes, as its default export',
      issue!.path.join('.'),
    );
  }
  const { checks, networks, reports } = parsed.data;
  return {
    checks: checks.map((check) => guarded(check as unknown as Check, module)),
    networks,
    reports: reports as unknown as ReportFormat[],
  };
}

async function importModule(file: string, module: string): Promise<{ default?: unknown }> {
  try {
    return await import(pathToFileURL(file).href);
  } catch (cause) {
    throw refused(module, `a module that cannot be loaded: ${(cause as Error).message}`, 'JavaScript (ESM)');
  }
}

/** What is wrong in a check of a team's own is told with its module, and what it gives is what its schema says. */
function guarded(check: Check, module: string): Check {
  return {
    ...check,
    *run(facts, intent) {
      try {
        for (const assertion of check.run(facts, intent)) {
          if ('draft' in assertion) check.data.parse(assertion.draft.occurrence.data);
          yield assertion;
        }
      } catch (cause) {
        throw refused(
          module,
          (cause as Error).message,
          'a run that ends, with data as its schema says',
          check.id,
        );
      }
    },
    words(data, finding) {
      try {
        return check.words(data, finding);
      } catch (cause) {
        throw refused(module, (cause as Error).message, 'words for every finding', `${check.id}.words`);
      }
    },
  };
}

const refused = (file: string, found: string, expected: string, place?: string) =>
  new UnreadableError({
    code: 'extension',
    file,
    place,
    found,
    expected,
    remedy: 'Correct the module, or take it out of `extensions` in fenlok.yaml: docs/extensions.md.',
  });
