/**
 * Classes of the platform for running the exporter without a device: what it asks of them, and no more. It is compiled against the
 * platform's own jar; these only stand in its place when it runs.
 */
const SIMPLE = (type: string, names: readonly string[]): string =>
  names.map((name) => `public ${type} ${name};`).join(' ');

const FLAGS = [
  ...['clickable', 'longClickable', 'checkable', 'checked', 'enabled', 'focusable', 'scrollable', 'selected'],
  ...['focused', 'password', 'visibleToUser', 'heading', 'screenReaderFocusable'],
];
const title = (name: string) => name[0]!.toUpperCase() + name.slice(1);

/** By the path of the file. */
export const FAKES: Readonly<Record<string, string>> = {
  'android/accessibilityservice/AccessibilityServiceInfo':
    'public class AccessibilityServiceInfo { public int flags; }',
  'android/app/Instrumentation':
    'public class Instrumentation { public UiAutomation ui = new UiAutomation(); public android.content.Context app = new android.content.Context(); public UiAutomation getUiAutomation() { return ui; } public android.content.Context getTargetContext() { return app; } }',
  'android/app/UiAutomation':
    'public class UiAutomation { public android.view.accessibility.AccessibilityNodeInfo root; android.accessibilityservice.AccessibilityServiceInfo info = new android.accessibilityservice.AccessibilityServiceInfo(); public android.accessibilityservice.AccessibilityServiceInfo getServiceInfo() { return info; } public void setServiceInfo(android.accessibilityservice.AccessibilityServiceInfo of) { info = of; } public void waitForIdle(long a, long b) throws java.util.concurrent.TimeoutException { throw new java.util.concurrent.TimeoutException(); } public android.view.accessibility.AccessibilityNodeInfo getRootInActiveWindow() { if ((info.flags & 16) == 0) throw new IllegalStateException("no ids"); return root; } public android.graphics.Bitmap takeScreenshot() { return new android.graphics.Bitmap(); } }',
  'android/content/Context':
    'public class Context { public String apk; public android.content.res.Resources getResources() { return android.content.res.Resources.ONLY; } public android.content.pm.PackageManager getPackageManager() { return new android.content.pm.PackageManager(); } public String getPackageName() { return "example.kelpline"; } public String getPackageCodePath() { return apk; } }',
  'android/content/pm/PackageInfo':
    'public class PackageInfo { public String versionName = "2.4.0"; public int versionCode = 240; }',
  'android/content/pm/PackageManager':
    'public class PackageManager { public static class NameNotFoundException extends Exception {} public PackageInfo getPackageInfo(String a, int b) throws NameNotFoundException { return new PackageInfo(); } }',
  'android/content/res/Configuration':
    'public class Configuration { public int uiMode; public java.util.Locale locale; public float fontScale = 1; public int orientation = 1; }',
  'android/content/res/Resources':
    'public class Resources { public static final Resources ONLY = new Resources(); public Configuration now = new Configuration(); public Configuration getConfiguration() { return now; } public android.util.DisplayMetrics getDisplayMetrics() { return new android.util.DisplayMetrics(); } }',
  'android/util/DisplayMetrics':
    'public class DisplayMetrics { public int densityDpi = 320; public float density = 2; }',
  'android/graphics/Bitmap':
    'public class Bitmap { public enum CompressFormat { JPEG, PNG, WEBP } public boolean compress(CompressFormat as, int quality, java.io.OutputStream out) { try { out.write(java.nio.file.Files.readAllBytes(java.nio.file.Paths.get(System.getProperty("picture")))); } catch (java.io.IOException e) { return false; } return true; } }',
  'android/graphics/Rect': `public class Rect { ${SIMPLE('int', ['left', 'top', 'right', 'bottom'])} }`,
  'android/os/Build':
    'public class Build { public static String DEVICE = "made-up"; public static class VERSION { public static int SDK_INT = Integer.getInteger("level"); } }',
  'android/os/Bundle': 'public class Bundle {}',
  'android/view/accessibility/AccessibilityNodeInfo': `import java.util.*; public class AccessibilityNodeInfo {
    public static class AccessibilityAction { final int id; final CharSequence label; public AccessibilityAction(int id, CharSequence label) { this.id = id; this.label = label; } public int getId() { return id; } public CharSequence getLabel() { return label; } }
    public static class RangeInfo { public float getCurrent() { return 3; } public float getMax() { return 5; } }
    public static class ExtraRenderingInfo { public float getTextSizeInPx() { return 36; } }
    ${SIMPLE('CharSequence', ['className', 'text', 'contentDescription', 'hintText', 'stateDescription'])} public String viewIdResourceName; public RangeInfo rangeInfo; public int[] at = { 0, 0, 720, 1280 };
    ${SIMPLE('AccessibilityNodeInfo', ['labelFor', 'traversalBefore', 'traversalAfter'])} ${SIMPLE('boolean', FLAGS)}
    public List<AccessibilityAction> actionList = new ArrayList<>(); public List<AccessibilityNodeInfo> children = new ArrayList<>();
    ${['className', 'text', 'contentDescription', 'hintText', 'stateDescription'].map((name) => `public CharSequence get${title(name)}() { return ${name}; }`).join(' ')}
    ${['labelFor', 'traversalBefore', 'traversalAfter'].map((name) => `public AccessibilityNodeInfo get${title(name)}() { return ${name}; }`).join(' ')}
    ${FLAGS.map((name) => `public boolean is${title(name)}() { return ${name}; }`).join(' ')}
    public String getViewIdResourceName() { return viewIdResourceName; } public RangeInfo getRangeInfo() { return rangeInfo; } public List<AccessibilityAction> getActionList() { return actionList; }
    public void getBoundsInScreen(android.graphics.Rect out) { out.left = at[0]; out.top = at[1]; out.right = at[2]; out.bottom = at[3]; }
    public int getChildCount() { return children.size(); } public AccessibilityNodeInfo getChild(int i) { return children.get(i); }
    public boolean refreshWithExtraData(String key, android.os.Bundle args) { return key.endsWith("RENDERING_INFO_KEY"); } public ExtraRenderingInfo getExtraRenderingInfo() { return new ExtraRenderingInfo(); }
  }`,
  // One screen, with everything that a node may tell.
  Main: `import android.view.accessibility.AccessibilityNodeInfo; import android.view.accessibility.AccessibilityNodeInfo.AccessibilityAction; import java.util.*;
  public class Main {
    static AccessibilityNodeInfo node(String id, String className, String text, int... at) { AccessibilityNodeInfo one = new AccessibilityNodeInfo(); one.viewIdResourceName = id == null ? null : "example.kelpline:id/" + id; one.className = className; one.text = text; one.at = at; one.enabled = true; one.visibleToUser = true; return one; }
    public static void main(String[] args) throws Exception {
      android.app.Instrumentation test = new android.app.Instrumentation(); test.app.apk = args[1];
      android.content.res.Resources.ONLY.now.locale = Locale.forLanguageTag("de-DE"); android.content.res.Resources.ONLY.now.uiMode = 0x20;
      AccessibilityNodeInfo root = node(null, "android.widget.FrameLayout", null, 0, 0, 720, 1280);
      AccessibilityNodeInfo title = node("title", "android.widget.TextView", "Fähre \\"Heron\\" \\uD83D\\uDEA2", 32, 40, 700, 120); title.heading = true;
      AccessibilityNodeInfo field = node("email_field", "android.widget.EditText", null, 32, 240, 688, 336); field.hintText = "name@example.com"; field.focusable = true;
      AccessibilityNodeInfo name = node("email_label", "android.widget.TextView", "E-Mail", 32, 180, 300, 230); name.labelFor = field; name.traversalBefore = field;
      AccessibilityNodeInfo row = node("alert_row", "android.view.ViewGroup", null, 32, 400, 688, 520); row.screenReaderFocusable = true; row.stateDescription = "an"; row.clickable = true;
      row.actionList.add(new AccessibilityAction(0x10, "Öffnen")); row.actionList.add(new AccessibilityAction(0x7f0b0012, "Verwerfen")); row.actionList.add(new AccessibilityAction(0x00080000, null)); row.actionList.add(new AccessibilityAction(0x01020036, null));
      AccessibilityNodeInfo seats = node("seats", "android.widget.SeekBar", null, 32, 560, 688, 620); seats.rangeInfo = new AccessibilityNodeInfo.RangeInfo();
      root.children.addAll(Arrays.asList(title, name, field, row, seats)); test.getUiAutomation().root = root;
      dev.fenlok.FenlokExporter exporter = new dev.fenlok.FenlokExporter(test, new java.io.File(args[0]));
      System.out.println(exporter.capture("booking").getName());
      exporter.trace("link.opened", Collections.singletonMap("arguments", Collections.singletonMap("sailing", "2"))); exporter.trace("app.idle", new HashMap<String, Object>());
    }
  }`,
};
