/** Marks of the platform's services in a package: what its documentation tells apps to declare or to call. */
import type { Manifest, Traces } from '../../model/app-package.ts';

const PERMISSIONS: [kind: keyof Traces, pattern: RegExp][] = [
  ['push', /^android\.permission\.POST_NOTIFICATIONS$|\.c2dm\.permission\.RECEIVE$/],
  ['billing', /^com\.android\.vending\.BILLING$/],
  ['ads', /\.permission\.AD_ID$|^android\.permission\.ACCESS_ADSERVICES_/],
];
const ACTIONS: [kind: keyof Traces, pattern: RegExp][] = [
  ['push', /\.MESSAGING_EVENT$|\.c2dm\.intent\.RECEIVE$/],
  ['billing', /\.InAppBillingService\.BIND$/],
];
const CLASSES: [kind: keyof Traces, pattern: RegExp][] = [
  ['push', /^Landroid\/app\/NotificationChannel;$/],
  ['billing', /^Lcom\/android\/billingclient\/api\/BillingClient;$/],
  ['ads', /^Landroid\/adservices\//],
];

export function findTraces(manifest: Manifest, types: Iterable<string>): Traces {
  const found: Record<keyof Traces, Set<string>> = { push: new Set(), billing: new Set(), ads: new Set() };
  const note = (marks: [keyof Traces, RegExp][], name: string, said: string) => {
    for (const [kind, pattern] of marks) if (pattern.test(name)) found[kind].add(said);
  };
  for (const { name } of manifest.permissions) note(PERMISSIONS, name, `permission ${name}`);
  for (const component of manifest.components)
    for (const action of component.filters.flatMap(({ actions }) => actions))
      note(ACTIONS, action, `${component.type} ${component.name} for ${action}`);
  for (const type of types) note(CLASSES, type, `code names ${type.slice(1, -1).replaceAll('/', '.')}`);
  return { push: [...found.push], billing: [...found.billing], ads: [...found.ads] };
}
