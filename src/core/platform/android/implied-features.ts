/**
 * Features of a device that asking for a permission asks for as well, so that stores hide the app from devices without them
 * (Android developers, *<uses-feature>*, "Permissions that imply feature requirements").
 */
const IMPLIED: readonly { feature: string; permissions: readonly string[]; untilTarget?: number }[] = [
  { feature: 'android.hardware.bluetooth', permissions: ['BLUETOOTH', 'BLUETOOTH_ADMIN'] },
  { feature: 'android.hardware.camera', permissions: ['CAMERA'] },
  {
    feature: 'android.hardware.location',
    permissions: [
      'ACCESS_COARSE_LOCATION',
      'ACCESS_FINE_LOCATION',
      'ACCESS_LOCATION_EXTRA_COMMANDS',
      'ACCESS_MOCK_LOCATION',
      'INSTALL_LOCATION_PROVIDER',
    ],
  },
  { feature: 'android.hardware.location.gps', permissions: ['ACCESS_FINE_LOCATION'], untilTarget: 20 },
  { feature: 'android.hardware.location.network', permissions: ['ACCESS_COARSE_LOCATION'], untilTarget: 20 },
  { feature: 'android.hardware.microphone', permissions: ['RECORD_AUDIO'] },
  {
    feature: 'android.hardware.telephony',
    permissions: [
      'CALL_PHONE',
      'CALL_PRIVILEGED',
      'MODIFY_PHONE_STATE',
      'PROCESS_OUTGOING_CALLS',
      'READ_SMS',
      'RECEIVE_MMS',
      'RECEIVE_SMS',
      'RECEIVE_WAP_PUSH',
      'SEND_SMS',
      'WRITE_APN_SETTINGS',
      'WRITE_SMS',
    ],
  },
  {
    feature: 'android.hardware.wifi',
    permissions: ['ACCESS_WIFI_STATE', 'CHANGE_WIFI_MULTICAST_STATE', 'CHANGE_WIFI_STATE'],
  },
];

/** Each feature that is asked for and not written down, and the permissions that ask for it. */
export function impliedFeatures(
  permissions: readonly string[],
  written: readonly string[],
  targetSdk: number,
): { feature: string; permissions: string[] }[] {
  const asked = new Set(permissions.map((name) => name.replace(/^android\.permission\./, '')));
  return IMPLIED.flatMap(({ feature, permissions: of, untilTarget }) => {
    const found = of.filter((permission) => asked.has(permission));
    const isOld = untilTarget !== undefined && targetSdk > untilTarget;
    return found.length > 0 && !isOld && !written.includes(feature) ? [{ feature, permissions: found }] : [];
  });
}
