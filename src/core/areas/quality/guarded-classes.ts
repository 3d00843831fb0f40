/** Classes whose use makes the system ask, and the Info.plist key it shows then (Apple, *Protected resources*). */
export const GUARDED_CLASSES: readonly { key: string; classes: readonly string[] }[] = [
  { key: 'NSCameraUsageDescription', classes: ['AVCaptureDevice', 'UIImagePickerController'] },
  { key: 'NSMicrophoneUsageDescription', classes: ['AVAudioRecorder'] },
  { key: 'NSPhotoLibraryUsageDescription', classes: ['PHAsset', 'PHPhotoLibrary'] },
  { key: 'NSLocationWhenInUseUsageDescription', classes: ['CLLocationManager'] },
  { key: 'NSContactsUsageDescription', classes: ['CNContactStore'] },
  { key: 'NSCalendarsFullAccessUsageDescription', classes: ['EKEventStore'] },
  { key: 'NSBluetoothAlwaysUsageDescription', classes: ['CBCentralManager', 'CBPeripheralManager'] },
  { key: 'NSFaceIDUsageDescription', classes: ['LAContext'] },
  { key: 'NSMotionUsageDescription', classes: ['CMMotionActivityManager', 'CMPedometer'] },
  { key: 'NSSpeechRecognitionUsageDescription', classes: ['SFSpeechRecognizer'] },
  { key: 'NSHealthShareUsageDescription', classes: ['HKHealthStore'] },
  { key: 'NSHomeKitUsageDescription', classes: ['HMHomeManager'] },
  { key: 'NSAppleMusicUsageDescription', classes: ['MPMediaLibrary'] },
  { key: 'NSUserTrackingUsageDescription', classes: ['ATTrackingManager'] },
];
