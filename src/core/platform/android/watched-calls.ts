/** Calls and texts of code that checks ask about: nothing else of it is kept. */
import { PERMISSION_USES } from './permission-calls.ts';

/** By what they show. */
const OTHERS = [
  // warnings that the build asks for
  'android.os.StrictMode.setThreadPolicy',
  'android.os.StrictMode.enableDefaults',
  'android.os.StrictMode.setVmPolicy',
  // a permission is explained before it is asked for
  'android.app.Activity.shouldShowRequestPermissionRationale',
  'androidx.core.app.ActivityCompat.shouldShowRequestPermissionRationale',
  'androidx.fragment.app.Fragment.shouldShowRequestPermissionRationale',
  // content keeps clear of the bars
  'androidx.activity.EdgeToEdge.enable',
  'androidx.core.view.ViewCompat.setOnApplyWindowInsetsListener',
  'androidx.core.view.WindowCompat.setDecorFitsSystemWindows',
  'androidx.core.view.WindowCompat.enableEdgeToEdge',
  'android.view.View.setOnApplyWindowInsetsListener',
  'android.view.Window.setDecorFitsSystemWindows',
  // back by gesture
  'androidx.activity.OnBackPressedDispatcher.addCallback',
  'android.window.OnBackInvokedDispatcher.registerOnBackInvokedCallback',
  // a language of the app's own
  'androidx.appcompat.app.AppCompatDelegate.setApplicationLocales',
  'android.app.LocaleManager.setApplicationLocales',
  'android.content.res.Resources.updateConfiguration',
  'android.content.Context.createConfigurationContext',
  'com.google.android.play.core.splitinstall.SplitInstallRequest$Builder.addLanguage',
  'com.google.android.play.core.splitinstall.SplitInstallManager.deferredLanguageInstall',
];

const ofPermissions = Object.values(PERMISSION_USES);
const ALARMS = ['setExact', 'setExactAndAllowWhileIdle', 'setAlarmClock', 'canScheduleExactAlarms'].map(
  (name) => `android.app.AlarmManager.${name}`,
);
const named = [...OTHERS, ...ALARMS, ...ofPermissions.flatMap(({ calls = [] }) => calls)];
const methods = new Set(named);
/** Counted in any class: overriding one names it there. */
const ANYWHERE = new Set(['onBackPressed']);
/** Texts of code that permissions are told by. */
export const WATCHED_TEXTS: ReadonlySet<string> = new Set(ofPermissions.flatMap(({ texts = [] }) => texts));

/** Of a class that the code names, as `package.Class.*`: itself, and the one that it is in. */
export function watchedTypes(className: string): string[] {
  const name = className.replace(/^\[*L|;$/g, '').replaceAll('/', '.');
  return [...new Set([name, name.split('$')[0]])]
    .map((one) => `${one}.*`)
    .filter((call) => methods.has(call));
}

/** `package.Class.method`, or `package.Class.*` where any of a class counts; nothing where nobody asks about it. */
export function watchedCalls(className: string, method: string): string[] {
  const name = className.replace(/^L|;$/g, '').replaceAll('/', '.');
  const calls = [`${name}.${method}`, `${name}.*`].filter((call) => methods.has(call));
  return ANYWHERE.has(method) ? [...calls, `*.${method}`] : calls;
}
