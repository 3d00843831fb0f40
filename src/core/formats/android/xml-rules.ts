/** Small XML files that a manifest names: network security, backup rules, locale configuration. */
import type {
  BackupPath,
  BackupRules,
  BackupSection,
  NetworkSecurity,
  Shortcut,
} from '../../model/app-package.ts';
import type { XmlElement } from './binary-xml.ts';
import { childrenOf, Reading } from './manifest-reading.ts';
import type { ResourceTable } from './resource-table.ts';

const plain = new Reading(undefined);
const text = (element: XmlElement, name: string): string => plain.text(element, name);
const flag = (element: XmlElement, name: string): boolean | undefined => plain.flag(element, name);
const children = childrenOf;

/** Android developers, *Network security configuration*. Nested domain configurations inherit what they do not say. */
export function readNetworkSecurity(root: XmlElement): NetworkSecurity {
  const base = children(root, 'base-config')[0];
  const domains = (element: XmlElement, inherited?: boolean): NetworkSecurity['domains'] =>
    children(element, 'domain-config').flatMap((config) => {
      const cleartext = flag(config, 'cleartextTrafficPermitted') ?? inherited;
      const names = children(config, 'domain').map((domain) => domain.text?.trim() ?? '');
      return [
        { names, cleartext, trustsUserCertificates: trustsUser(config) },
        ...domains(config, cleartext),
      ];
    });
  return {
    cleartext: base && flag(base, 'cleartextTrafficPermitted'),
    trustsUserCertificates: base !== undefined && trustsUser(base),
    domains: domains(root),
  };
}

const trustsUser = (element: XmlElement): boolean =>
  children(element, 'trust-anchors').some((anchors) =>
    children(anchors, 'certificates').some((certificates) => text(certificates, 'src') === 'user'),
  );

/** Android developers, *Back up user data with Auto Backup*: the rules up to Android 11. */
export const readFullBackupContent = (root: XmlElement): BackupRules => ({ fullBackup: section(root) });

/** The same: rules of Android 12 and later. */
export function readDataExtractionRules(root: XmlElement): BackupRules {
  const of = (name: string) => children(root, name).map(section)[0];
  return { cloudBackup: of('cloud-backup'), deviceTransfer: of('device-transfer') };
}

function section(element: XmlElement): BackupSection {
  const paths = (name: string): BackupPath[] =>
    children(element, name).map((child) => ({ domain: text(child, 'domain'), path: text(child, 'path') }));
  return { includes: paths('include'), excludes: paths('exclude') };
}

/** Android developers, *Create shortcuts*: those that the launcher shows on a long press; of each the intents, the last one opens. */
export const readShortcuts = (root: XmlElement, table: ResourceTable | undefined): Shortcut[] => {
  const of = new Reading(table);
  return children(root, 'shortcut').map((shortcut) => ({
    id: of.text(shortcut, 'shortcutId'),
    enabled: of.flag(shortcut, 'enabled') ?? true,
    label: of.text(shortcut, 'shortcutShortLabel'),
    intents: children(shortcut, 'intent').map((intent) => ({
      targetPackage: of.text(intent, 'targetPackage'),
      targetClass: of.text(intent, 'targetClass'),
    })),
  }));
};

/** Android developers, *Per-app language preferences*: the languages that the app says it has. */
export const readLocaleConfig = (root: XmlElement): string[] =>
  children(root, 'locale').map((locale) => text(locale, 'name'));
