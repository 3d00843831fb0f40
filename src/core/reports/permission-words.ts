/** What permissions let an app do, in plain words (Android developers, *Manifest.permission*; Apple, *Protected resources*). */

/** Those that the user is asked for, or that stores look at closely. */
const ASKED: Record<string, string> = {
  'android.permission.CAMERA': 'take pictures and record video',
  'android.permission.RECORD_AUDIO': 'listen through the microphone',
  'android.permission.ACCESS_FINE_LOCATION': 'know exactly where the device is',
  'android.permission.ACCESS_COARSE_LOCATION': 'know roughly where the device is',
  'android.permission.ACCESS_BACKGROUND_LOCATION': 'know where the device is while the app is not in use',
  'android.permission.READ_CONTACTS': 'read the contacts',
  'android.permission.WRITE_CONTACTS': 'change the contacts',
  'android.permission.GET_ACCOUNTS': 'list the accounts on the device',
  'android.permission.READ_CALENDAR': 'read the calendar',
  'android.permission.WRITE_CALENDAR': 'change the calendar',
  'android.permission.READ_SMS': 'read text messages',
  'android.permission.SEND_SMS': 'send text messages, which may cost money',
  'android.permission.RECEIVE_SMS': 'receive text messages',
  'android.permission.CALL_PHONE': 'make calls, which may cost money',
  'android.permission.READ_PHONE_STATE': "read the phone's state and identity",
  'android.permission.READ_CALL_LOG': 'read the list of calls',
  'android.permission.READ_EXTERNAL_STORAGE': 'read shared files',
  'android.permission.WRITE_EXTERNAL_STORAGE': 'change shared files',
  'android.permission.MANAGE_EXTERNAL_STORAGE': 'read and change all files',
  'android.permission.READ_MEDIA_IMAGES': 'read pictures',
  'android.permission.READ_MEDIA_VIDEO': 'read videos',
  'android.permission.READ_MEDIA_AUDIO': 'read music and recordings',
  'android.permission.BODY_SENSORS': 'read body sensors',
  'android.permission.ACTIVITY_RECOGNITION': 'know whether you walk, ride or drive',
  'android.permission.BLUETOOTH_SCAN': 'find devices nearby',
  'android.permission.BLUETOOTH_CONNECT': 'talk to paired devices',
  'android.permission.NEARBY_WIFI_DEVICES': 'find devices over Wi-Fi',
  'android.permission.POST_NOTIFICATIONS': 'show notifications',
  'android.permission.SYSTEM_ALERT_WINDOW': 'draw over other apps',
  'android.permission.QUERY_ALL_PACKAGES': 'see which apps are installed',
  'android.permission.REQUEST_INSTALL_PACKAGES': 'install other apps',
  'android.permission.SCHEDULE_EXACT_ALARM': 'wake the device at exact times',
  'android.permission.USE_FULL_SCREEN_INTENT': 'take over the screen with a notification',
  NSCameraUsageDescription: 'take pictures and record video',
  NSMicrophoneUsageDescription: 'listen through the microphone',
  NSPhotoLibraryUsageDescription: 'read and change the photo library',
  NSPhotoLibraryAddUsageDescription: 'add to the photo library',
  NSLocationWhenInUseUsageDescription: 'know where the device is while in use',
  NSLocationAlwaysAndWhenInUseUsageDescription: 'know where the device is at all times',
  NSContactsUsageDescription: 'read the contacts',
  NSCalendarsFullAccessUsageDescription: 'read and change the calendar',
  NSRemindersFullAccessUsageDescription: 'read and change reminders',
  NSBluetoothAlwaysUsageDescription: 'talk to devices nearby',
  NSFaceIDUsageDescription: 'use Face ID',
  NSMotionUsageDescription: 'know how the device is moved',
  NSSpeechRecognitionUsageDescription: 'have speech recognised',
  NSUserTrackingUsageDescription: 'follow the user across apps',
  NSLocalNetworkUsageDescription: 'find devices on the local network',
};

const GRANTED: Record<string, string> = {
  'android.permission.INTERNET': 'use the network',
  'android.permission.ACCESS_NETWORK_STATE': 'know whether there is a network',
  'android.permission.ACCESS_WIFI_STATE': 'know about the Wi-Fi connection',
  'android.permission.WAKE_LOCK': 'keep the device awake',
  'android.permission.VIBRATE': 'vibrate',
  'android.permission.FOREGROUND_SERVICE': 'run on with a notification shown',
  'android.permission.RECEIVE_BOOT_COMPLETED': 'start with the device',
  'android.permission.USE_BIOMETRIC': 'use fingerprint or face',
  'com.android.vending.BILLING': 'sell through the store',
  'com.google.android.gms.permission.AD_ID': 'read the advertising id',
  'com.google.android.c2dm.permission.RECEIVE': 'receive push messages',
};

interface PermissionWords {
  name: string;
  /** Empty where nothing is known of it. */
  words: string;
  asksUser: boolean;
}

/** What the user is asked for comes first, what nothing is known of next. */
export function formatPermissions(names: readonly string[]): PermissionWords[] {
  const rank = ({ asksUser, words }: PermissionWords) => (asksUser ? 0 : words === '' ? 1 : 2);
  return names
    .map((name) => ({ name, words: ASKED[name] ?? GRANTED[name] ?? '', asksUser: name in ASKED }))
    .sort((a, b) => rank(a) - rank(b));
}
