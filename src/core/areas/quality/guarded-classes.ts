/**
 * Classes whose use makes the system ask, and the Info.plist keys of what it shows then (Apple, *Protected resources*).
 * One of the keys is enough: which one depends on how much is asked for, and since which system.
 */
export const GUARDED_CLASSES: readonly {
  keys: readonly [string, ...string[]];
  classes: readonly string[];
}[] = [
  { keys: ['NSCameraUsageDescription'], classes: ['AVCaptureDevice'] },
  { keys: ['NSMicrophoneUsageDescription'], classes: ['AVAudioRecorder'] },
  {
    keys: ['NSPhotoLibraryUsageDescription', 'NSPhotoLibraryAddUsageDescription'],
    classes: ['PHAsset', 'PHPhotoLibrary'],
  },
  {
    keys: ['NSLocationWhenInUseUsageDescription', 'NSLocationAlwaysAndWhenInUseUsageDescription'],
    classes: ['CLLocationManager'],
  },
  { keys: ['NSContactsUsageDescription'], classes: ['CNContactStore'] },
  {
    keys: [
      'NSCalendarsFullAccessUsageDescription',
      'NSCalendarsWriteOnlyAccessUsageDescription',
      'NSRemindersFullAccessUsageDescription',
      'NSCalendarsUsageDescription',
      'NSRemindersUsageDescription',
    ],
    classes: ['EKEventStore'],
  },
  {
    keys: ['NSBluetoothAlwaysUsageDescription', 'NSBluetoothPeripheralUsageDescription'],
    classes: ['CBCentralManager', 'CBPeripheralManager'],
  },
  { keys: ['NSFaceIDUsageDescription'], classes: ['LAContext'] },
  { keys: ['NSMotionUsageDescription'], classes: ['CMMotionActivityManager', 'CMPedometer'] },
  { keys: ['NSSpeechRecognitionUsageDescription'], classes: ['SFSpeechRecognizer'] },
  { keys: ['NSHealthShareUsageDescription', 'NSHealthUpdateUsageDescription'], classes: ['HKHealthStore'] },
  { keys: ['NSHomeKitUsageDescription'], classes: ['HMHomeManager'] },
  { keys: ['NSAppleMusicUsageDescription'], classes: ['MPMediaLibrary'] },
  { keys: ['NSUserTrackingUsageDescription'], classes: ['ATTrackingManager'] },
];
