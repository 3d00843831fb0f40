/**
 * Calls for which a bundle's privacy manifest must give a reason (Apple, *Describing use of required reason API*), by the
 * symbols that code imports. What is only a method's name (`systemUptime`, `activeInputModes`) cannot be told by them.
 */
interface ReasonCategory {
  /** What stands in the manifest after `NSPrivacyAccessedAPICategory`. */
  name: string;
  /** What an app does with it, for people. */
  does: string;
  symbols: readonly string[];
  reasons: readonly string[];
}

export const REASON_CATEGORIES: readonly ReasonCategory[] = [
  {
    name: 'FileTimestamp',
    does: 'asks when files were made or changed',
    symbols: [
      '_NSFileCreationDate',
      '_NSFileModificationDate',
      '_NSURLContentModificationDateKey',
      '_NSURLCreationDateKey',
      '_fgetattrlist',
      '_fstat',
      '_fstatat',
      '_getattrlist',
      '_getattrlistat',
      '_getattrlistbulk',
      '_lstat',
      '_stat',
    ],
    reasons: ['DDA9.1', 'C617.1', '3B52.1', '0A2A.1'],
  },
  {
    name: 'SystemBootTime',
    does: 'asks how long the device has been running',
    symbols: ['_mach_absolute_time'],
    reasons: ['35F9.1', '8FFB.1', '3D61.1'],
  },
  {
    name: 'DiskSpace',
    does: 'asks how much room is left on the device',
    symbols: [
      '_NSFileSystemFreeSize',
      '_NSFileSystemSize',
      '_NSURLVolumeAvailableCapacityForImportantUsageKey',
      '_NSURLVolumeAvailableCapacityForOpportunisticUsageKey',
      '_NSURLVolumeAvailableCapacityKey',
      '_NSURLVolumeTotalCapacityKey',
      '_fstatfs',
      '_fstatvfs',
      '_statfs',
      '_statvfs',
    ],
    reasons: ['85F4.1', 'E174.1', '7D9E.1', 'B728.1'],
  },
  {
    name: 'UserDefaults',
    does: 'reads or writes user defaults',
    symbols: ['_OBJC_CLASS_$_NSUserDefaults'],
    reasons: ['CA92.1', '1C8F.1', 'C56D.1', 'AC6B.1'],
  },
];

/** The symbols among them that need a reason, by category. */
export function needingReasons(imports: Iterable<string>): { category: string; symbols: string[] }[] {
  // on some processors a suffix says which form of a call it is
  const names = new Set([...imports].map((symbol) => symbol.replace(/\$(INODE64|UNIX2003).*$/, '')));
  return REASON_CATEGORIES.flatMap(({ name, symbols }) => {
    const found = symbols.filter((symbol) => names.has(symbol));
    return found.length > 0 ? [{ category: name, symbols: found.map(plainName) }] : [];
  });
}

const plainName = (symbol: string): string => symbol.replace(/^_(OBJC_CLASS_\$_)?/, '');
