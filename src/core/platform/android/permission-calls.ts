/**
 * What each permission is for: the platform's calls that ask for it (Android developers, API reference, the permission that each
 * method names; Play services, Fused Location, Activity Recognition). Of November 2026, kept by hand.
 *
 * A call is `package.Class.method`; `package.Class.*` stands for whatever the code names of the class and of those in it, since addresses
 * of content are fields. An action or content address that an app
 * hands over as text stands in `texts`.
 */

interface PermissionUse {
  calls?: readonly string[];
  /** Texts of the code: actions, addresses of content, the names of features. */
  texts?: readonly string[];
}

const LOCATION: PermissionUse = {
  calls: [
    'android.location.LocationManager.requestLocationUpdates',
    'android.location.LocationManager.requestSingleUpdate',
    'android.location.LocationManager.getCurrentLocation',
    'android.location.LocationManager.getLastKnownLocation',
    'android.location.LocationManager.addProximityAlert',
    'android.location.LocationManager.registerGnssStatusCallback',
    'android.location.LocationManager.addNmeaListener',
    'androidx.core.location.LocationManagerCompat.requestLocationUpdates',
    'androidx.core.location.LocationManagerCompat.getCurrentLocation',
    'com.google.android.gms.location.FusedLocationProviderClient.*',
    'com.google.android.gms.location.GeofencingClient.addGeofences',
    'android.net.wifi.WifiManager.getScanResults',
    'android.net.wifi.WifiManager.startScan',
    'android.telephony.TelephonyManager.getAllCellInfo',
    'android.telephony.TelephonyManager.getCellLocation',
    'android.bluetooth.le.BluetoothLeScanner.startScan',
    'android.webkit.WebChromeClient.onGeolocationPermissionsShowPrompt',
    'android.webkit.GeolocationPermissions$Callback.invoke',
  ],
};

const CAMERA: PermissionUse = {
  calls: [
    'android.hardware.camera2.CameraManager.openCamera',
    'android.hardware.Camera.open',
    'androidx.camera.lifecycle.ProcessCameraProvider.*',
    'androidx.camera.core.CameraX.*',
    'android.webkit.PermissionRequest.grant',
  ],
  texts: ['android.media.action.IMAGE_CAPTURE', 'android.media.action.VIDEO_CAPTURE'],
};

const CONTACTS: readonly string[] = [
  'com.android.contacts',
  'content://com.android.contacts',
  'vnd.android.cursor.dir/contact',
];

const NETWORK_CALLS: readonly string[] = [
  'java.net.URL.openConnection',
  'java.net.URL.openStream',
  'java.net.Socket.*',
  'java.net.DatagramSocket.*',
  'java.net.InetAddress.getByName',
  'java.net.HttpURLConnection.*',
  'javax.net.ssl.HttpsURLConnection.*',
  'javax.net.ssl.SSLSocketFactory.*',
  'java.nio.channels.SocketChannel.*',
  'android.webkit.WebView.loadUrl',
  'android.webkit.WebView.*',
  'android.net.http.HttpEngine.*',
];

export const PERMISSION_USES: Readonly<Record<string, PermissionUse>> = {
  ACCESS_FINE_LOCATION: LOCATION,
  ACCESS_COARSE_LOCATION: LOCATION,
  ACCESS_BACKGROUND_LOCATION: LOCATION,
  ACCESS_NETWORK_STATE: {
    calls: [
      'android.net.ConnectivityManager.*',
      'androidx.core.net.ConnectivityManagerCompat.*',
      'android.net.NetworkInfo.*',
    ],
  },
  ACCESS_WIFI_STATE: { calls: ['android.net.wifi.WifiManager.*', 'android.net.wifi.WifiInfo.*'] },
  CHANGE_WIFI_STATE: {
    calls: [
      'android.net.wifi.WifiManager.setWifiEnabled',
      'android.net.wifi.WifiManager.startScan',
      'android.net.wifi.WifiManager.addNetwork',
      'android.net.wifi.WifiManager.addNetworkSuggestions',
    ],
  },
  ACTIVITY_RECOGNITION: {
    calls: [
      'com.google.android.gms.location.ActivityRecognitionClient.*',
      'android.hardware.SensorManager.registerListener',
    ],
  },
  BLUETOOTH: { calls: ['android.bluetooth.BluetoothAdapter.*', 'android.bluetooth.BluetoothManager.*'] },
  BLUETOOTH_ADMIN: {
    calls: [
      'android.bluetooth.BluetoothAdapter.startDiscovery',
      'android.bluetooth.BluetoothAdapter.enable',
      'android.bluetooth.BluetoothAdapter.disable',
      'android.bluetooth.BluetoothAdapter.cancelDiscovery',
      'android.bluetooth.BluetoothAdapter.setName',
      'android.bluetooth.BluetoothDevice.createBond',
      'android.bluetooth.le.BluetoothLeScanner.startScan',
    ],
  },
  BLUETOOTH_CONNECT: {
    calls: [
      'android.bluetooth.BluetoothDevice.*',
      'android.bluetooth.BluetoothGatt.*',
      'android.bluetooth.BluetoothAdapter.*',
    ],
  },
  BLUETOOTH_SCAN: {
    calls: [
      'android.bluetooth.le.BluetoothLeScanner.startScan',
      'android.bluetooth.BluetoothAdapter.startDiscovery',
      'android.bluetooth.BluetoothAdapter.startLeScan',
    ],
  },
  BLUETOOTH_ADVERTISE: { calls: ['android.bluetooth.le.BluetoothLeAdvertiser.*'] },
  BODY_SENSORS: { calls: ['android.hardware.SensorManager.registerListener'] },
  CALL_PHONE: { texts: ['android.intent.action.CALL'] },
  CAMERA,
  FLASHLIGHT: {
    calls: ['android.hardware.camera2.CameraManager.setTorchMode', 'android.hardware.Camera.open'],
  },
  GET_ACCOUNTS: { calls: ['android.accounts.AccountManager.*'] },
  INTERNET: { calls: NETWORK_CALLS },
  MODIFY_AUDIO_SETTINGS: { calls: ['android.media.AudioManager.*'] },
  NFC: { calls: ['android.nfc.NfcAdapter.*'] },
  NEARBY_WIFI_DEVICES: {
    calls: [
      'android.net.wifi.WifiManager.*',
      'android.net.wifi.p2p.WifiP2pManager.*',
      'android.net.wifi.aware.WifiAwareManager.*',
    ],
  },
  POST_NOTIFICATIONS: {
    calls: [
      'android.app.NotificationManager.notify',
      'androidx.core.app.NotificationManagerCompat.notify',
      'android.app.Service.startForeground',
      'androidx.core.app.ServiceCompat.startForeground',
    ],
  },
  READ_CALENDAR: {
    calls: ['android.provider.CalendarContract.*'],
    texts: ['com.android.calendar', 'content://com.android.calendar'],
  },
  WRITE_CALENDAR: {
    calls: ['android.provider.CalendarContract.*'],
    texts: ['com.android.calendar', 'content://com.android.calendar'],
  },
  READ_CALL_LOG: { calls: ['android.provider.CallLog.*'], texts: ['call_log', 'content://call_log/calls'] },
  READ_CONTACTS: {
    calls: ['android.provider.ContactsContract.*', 'android.provider.Contacts.*'],
    texts: CONTACTS,
  },
  WRITE_CONTACTS: {
    calls: ['android.provider.ContactsContract.*', 'android.provider.Contacts.*'],
    texts: CONTACTS,
  },
  READ_MEDIA_IMAGES: {
    calls: ['android.provider.MediaStore.*'],
    texts: ['external', 'content://media'],
  },
  READ_MEDIA_VIDEO: {
    calls: ['android.provider.MediaStore.*'],
    texts: ['external', 'content://media'],
  },
  READ_MEDIA_AUDIO: {
    calls: ['android.provider.MediaStore.*'],
    texts: ['external', 'content://media'],
  },
  READ_PHONE_STATE: {
    calls: [
      'android.telephony.TelephonyManager.getDeviceId',
      'android.telephony.TelephonyManager.getImei',
      'android.telephony.TelephonyManager.getLine1Number',
      'android.telephony.TelephonyManager.getCallState',
      'android.telephony.TelephonyManager.getDataNetworkType',
      'android.telephony.TelephonyManager.listen',
      'android.telephony.TelephonyManager.registerTelephonyCallback',
      'android.telephony.SubscriptionManager.*',
    ],
  },
  READ_SMS: {
    calls: ['android.provider.Telephony.*'],
    texts: ['content://sms', 'content://sms/inbox', 'sms'],
  },
  RECEIVE_SMS: { texts: ['android.provider.Telephony.SMS_RECEIVED'] },
  SEND_SMS: { calls: ['android.telephony.SmsManager.*'] },
  RECORD_AUDIO: {
    calls: [
      'android.media.AudioRecord.*',
      'android.media.MediaRecorder.*',
      'android.speech.SpeechRecognizer.*',
      'android.webkit.PermissionRequest.grant',
    ],
  },
  REQUEST_INSTALL_PACKAGES: {
    calls: ['android.content.pm.PackageInstaller.*'],
    texts: ['application/vnd.android.package-archive', 'android.intent.action.INSTALL_PACKAGE'],
  },
  SCHEDULE_EXACT_ALARM: {
    calls: [
      'android.app.AlarmManager.setExact',
      'android.app.AlarmManager.setExactAndAllowWhileIdle',
      'android.app.AlarmManager.setAlarmClock',
      'android.app.AlarmManager.canScheduleExactAlarms',
      'androidx.core.app.AlarmManagerCompat.*',
    ],
  },
  USE_EXACT_ALARM: {
    calls: [
      'android.app.AlarmManager.setExact',
      'android.app.AlarmManager.setExactAndAllowWhileIdle',
      'android.app.AlarmManager.setAlarmClock',
      'androidx.core.app.AlarmManagerCompat.*',
    ],
  },
  SYSTEM_ALERT_WINDOW: {
    calls: ['android.view.WindowManager.addView', 'android.provider.Settings.canDrawOverlays'],
  },
  USE_BIOMETRIC: {
    calls: [
      'android.hardware.biometrics.BiometricPrompt.*',
      'androidx.biometric.BiometricPrompt.*',
      'android.hardware.biometrics.BiometricManager.*',
    ],
  },
  USE_FINGERPRINT: {
    calls: ['android.hardware.fingerprint.FingerprintManager.*', 'androidx.biometric.BiometricPrompt.*'],
  },
  VIBRATE: {
    calls: ['android.os.Vibrator.*', 'android.os.VibratorManager.*', 'android.os.VibrationEffect.*'],
  },
  WAKE_LOCK: {
    calls: [
      'android.os.PowerManager$WakeLock.*',
      'android.net.wifi.WifiManager$WifiLock.*',
      'android.os.PowerManager.newWakeLock',
      'androidx.work.WorkManager.*',
      'android.media.MediaPlayer.setWakeMode',
    ],
  },
  READ_EXTERNAL_STORAGE: { calls: ['android.os.Environment.*', 'android.provider.MediaStore.*'] },
  WRITE_EXTERNAL_STORAGE: { calls: ['android.os.Environment.*', 'android.provider.MediaStore.*'] },
  QUERY_ALL_PACKAGES: {
    calls: [
      'android.content.pm.PackageManager.getInstalledPackages',
      'android.content.pm.PackageManager.getInstalledApplications',
      'android.content.pm.PackageManager.queryIntentActivities',
      'android.content.pm.PackageManager.getPackageInfo',
      'android.content.pm.PackageManager.getApplicationInfo',
    ],
  },
  USE_FULL_SCREEN_INTENT: {
    calls: [
      'android.app.Notification$Builder.setFullScreenIntent',
      'androidx.core.app.NotificationCompat$Builder.setFullScreenIntent',
    ],
  },
  SET_WALLPAPER: { calls: ['android.app.WallpaperManager.*'] },
  DISABLE_KEYGUARD: { calls: ['android.app.KeyguardManager.*'] },
  'com.google.android.c2dm.permission.RECEIVE': {
    calls: [
      'com.google.firebase.messaging.FirebaseMessaging.*',
      'com.google.android.gms.gcm.GoogleCloudMessaging.*',
    ],
  },
  'com.android.vending.BILLING': {
    calls: ['com.android.billingclient.api.BillingClient.*'],
    texts: ['com.android.vending.billing.InAppBillingService.BIND'],
  },
  'com.google.android.gms.permission.AD_ID': {
    calls: ['com.google.android.gms.ads.identifier.AdvertisingIdClient.*'],
    texts: ['com.google.android.gms.ads.identifier.service.START'],
  },
};

/** What an app may use without a call that dex files show: by a library in machine code. */
export const USED_BY_NATIVE_CODE: ReadonlySet<string> = new Set([
  'ACCESS_NETWORK_STATE',
  'CAMERA',
  'INTERNET',
  'MODIFY_AUDIO_SETTINGS',
  'READ_MEDIA_AUDIO',
  'READ_MEDIA_IMAGES',
  'READ_MEDIA_VIDEO',
  'RECORD_AUDIO',
]);

/** Those that the system asks its user for (Android developers, `Manifest.permission`, protection level *dangerous*). */
export const RUNTIME_PERMISSIONS: ReadonlySet<string> = new Set([
  'ACCESS_BACKGROUND_LOCATION',
  'ACCESS_COARSE_LOCATION',
  'ACCESS_FINE_LOCATION',
  'ACCESS_MEDIA_LOCATION',
  'ACTIVITY_RECOGNITION',
  'ANSWER_PHONE_CALLS',
  'BLUETOOTH_ADVERTISE',
  'BLUETOOTH_CONNECT',
  'BLUETOOTH_SCAN',
  'BODY_SENSORS',
  'CALL_PHONE',
  'CAMERA',
  'GET_ACCOUNTS',
  'NEARBY_WIFI_DEVICES',
  'POST_NOTIFICATIONS',
  'READ_CALENDAR',
  'READ_CALL_LOG',
  'READ_CONTACTS',
  'READ_EXTERNAL_STORAGE',
  'READ_MEDIA_AUDIO',
  'READ_MEDIA_IMAGES',
  'READ_MEDIA_VIDEO',
  'READ_PHONE_NUMBERS',
  'READ_PHONE_STATE',
  'READ_SMS',
  'RECEIVE_SMS',
  'RECORD_AUDIO',
  'SEND_SMS',
  'UWB_RANGING',
  'WRITE_CALENDAR',
  'WRITE_CALL_LOG',
  'WRITE_CONTACTS',
  'WRITE_EXTERNAL_STORAGE',
]);

export const isLocationPermission = (permission: string): boolean =>
  /^android\.permission\.ACCESS_(?:FINE|COARSE|BACKGROUND)_LOCATION$/.test(permission);
