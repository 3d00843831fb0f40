/** Pictures that some device gets scaled up, or in another form than it could: asset by device, the worst first. */
import type { VariantMatrix } from '../../model/judgement.ts';
import type { FactIndex, IntentWith } from '../check.ts';
import type { ListedDevice } from './devices.ts';
import { type Pick, pickedResources } from './picks.ts';

// What a person looks through; the findings hold all of them.
const MAX_ROWS = 60;

/** @param troubled names of resources with a finding */
export function variantMatrix(
  facts: FactIndex<'varied-resource'>,
  intent: IntentWith,
  troubled: readonly string[],
): VariantMatrix {
  // of the shipped list the phones: tablets pick alike unless something asks for a width, and then it is in the findings
  const isShown = ({ name }: ListedDevice) => intent.devices.length > 0 || !name.endsWith(' tablet');
  const picked = facts.once(pickedResources, intent);
  const listed = new Set(picked.flatMap(({ picks }) => picks.map(({ situation }) => situation.device)));
  const devices = [...listed].filter(isShown);
  const byName = new Map(picked.map((resource) => [resource.fact.name, resource]));
  const rows = troubled.flatMap((name) => {
    const resource = byName.get(name);
    if (!resource) return [];
    const cells = devices.map((device) =>
      cellOf(resource.picks.filter(({ situation }) => situation.device === device)),
    );
    const worst = Math.max(...resource.picks.map(badness));
    return [{ worst, row: { resource: name, cells } }];
  });
  return {
    devices: devices.map(({ densityDpi, name }) => ({ name, densityDpi })),
    rows: rows
      .sort((a, b) => b.worst - a.worst)
      .slice(0, MAX_ROWS)
      .map(({ row }) => row),
  };
}

/** The worst of all languages and themes on one device, and in which it is. */
function cellOf(picks: readonly Pick[]): VariantMatrix['rows'][number]['cells'][number] {
  const worst = [...picks].sort((a, b) => badness(b) - badness(a))[0]!;
  const { form, scale, situation } = worst;
  const isEverywhere = (scale ?? 1) <= 1 && form ? true : picks.every((pick) => pick.form === form);
  return {
    variant: form ? form.qualifiers || 'default' : 'none',
    ...(scale !== undefined && { scale }),
    ...(!isEverywhere && {
      where: [situation.locale, situation.night ? 'night' : ''].filter(Boolean).join(', '),
    }),
  };
}

const badness = ({ form, scale = 1 }: Pick): number => (form ? Math.max(scale, 1 / (4 * scale)) : 1000);
