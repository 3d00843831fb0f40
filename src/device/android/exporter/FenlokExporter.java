// Writes captures of the screen in front, and lines of a trace, from an instrumentation test (docs/captures.md).
//
// Copy this file into androidTest. It uses the platform and nothing else: what came after level 23 is called by reflection, where
// the device has it. What a node does not tell is left out, and stays untested.
package dev.fenlok;

import android.accessibilityservice.AccessibilityServiceInfo;
import android.app.Instrumentation;
import android.app.UiAutomation;
import android.content.Context;
import android.content.pm.PackageInfo;
import android.content.pm.PackageManager;
import android.content.res.Configuration;
import android.graphics.Bitmap;
import android.graphics.Rect;
import android.os.Build;
import android.os.Bundle;
import android.view.accessibility.AccessibilityNodeInfo;
import android.view.accessibility.AccessibilityNodeInfo.AccessibilityAction;
import android.view.accessibility.AccessibilityNodeInfo.RangeInfo;
import java.io.ByteArrayOutputStream;
import java.io.File;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.text.SimpleDateFormat;
import java.util.ArrayList;
import java.util.Date;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TimeZone;
import java.util.concurrent.TimeoutException;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;

/** Of one app, into one folder. */
public final class FenlokExporter {
  private static final int MOST_NODES = 20_000;
  private static final int IDLE_MS = 500;
  private static final int IDLE_WITHIN_MS = 10_000;
  private static final Charset UTF_8 = Charset.forName("UTF-8");

  // Calls of AccessibilityNodeInfo that came after level 23: since, name, parameters.
  private static final Call HINT = new Call(26, "getHintText");
  private static final Call RENDERING = new Call(26, "refreshWithExtraData", String.class, Bundle.class);
  private static final Call HEADING = new Call(28, "isHeading");
  private static final Call READER_STOPS = new Call(28, "isScreenReaderFocusable");
  private static final Call STATE = new Call(30, "getStateDescription");
  private static final Call EXTRA = new Call(30, "getExtraRenderingInfo");
  // EXTRA_DATA_RENDERING_INFO_KEY, since level 30
  private static final String RENDERING_KEY = "android.view.accessibility.extra.DATA_RENDERING_INFO_KEY";
  // of ExtraRenderingInfo, since level 30
  private static final String TEXT_SIZE = "getTextSizeInPx";

  private final UiAutomation automation;
  private final Context app;
  private final File folder;

  /** @param folder where captures and the trace are written, made where it is not there */
  public FenlokExporter(Instrumentation instrumentation, File folder) {
    this.automation = instrumentation.getUiAutomation();
    this.app = instrumentation.getTargetContext();
    this.folder = folder;
    AccessibilityServiceInfo info = automation.getServiceInfo();
    info.flags |= AccessibilityServiceInfo.FLAG_REPORT_VIEW_IDS;
    automation.setServiceInfo(info);
  }

  /** The screen in front as it opens. */
  public File capture(String screen) throws IOException {
    return capture(screen, "as-is", "");
  }

  /**
   * Picture and tree, once nothing has moved for half a second.
   *
   * @param procedure what was done before, such as "display-large"
   * @return the JSON file, beside its PNG
   * @throws IOException also where nothing is in front
   */
  public File capture(String screen, String procedure, String step) throws IOException {
    try {
      automation.waitForIdle(IDLE_MS, IDLE_WITHIN_MS);
    } catch (TimeoutException moving) {
      // what always moves is taken as it is
    }
    AccessibilityNodeInfo root = automation.getRootInActiveWindow();
    Bitmap picture = automation.takeScreenshot();
    if (root == null || picture == null) throw new IOException("Fenlok: no window is in front");
    Map<String, Object> cell = cell(screen, procedure, step);
    String name = screen + "-" + procedure + (step.isEmpty() ? "" : "-" + step) + "-" + cell.get("locale") + "-" + cell.get("theme")
        + "-" + cell.get("textScale") + "-" + cell.get("orientation");
    name = name.replaceAll("[^A-Za-z0-9._-]", "_");
    if (!folder.isDirectory() && !folder.mkdirs()) throw new IOException("Fenlok: " + folder + " cannot be made");
    try (OutputStream out = new FileOutputStream(new File(folder, name + ".png"))) {
      picture.compress(Bitmap.CompressFormat.PNG, 100, out);
    }
    Map<String, Object> capture = new LinkedHashMap<>();
    capture.put("fenlok", "capture/1");
    capture.put("platform", "android");
    capture.put("build", build());
    capture.put("cell", cell);
    capture.put("at", now());
    capture.put("densityDpi", app.getResources().getDisplayMetrics().densityDpi);
    capture.put("picture", name + ".png");
    capture.put("carries", carries());
    capture.put("tree", node(root, new int[1]));
    File file = new File(folder, name + ".json");
    write(file, json(capture), false);
    return file;
  }

  /** One timed line of trace.jsonl: {@code trace("link.opened", …)}. */
  public void trace(String kind, Map<String, ?> fields) throws IOException {
    Map<String, Object> line = new LinkedHashMap<String, Object>(fields);
    line.put("at", now());
    line.put("kind", kind);
    if (!folder.isDirectory() && !folder.mkdirs()) throw new IOException("Fenlok: " + folder + " cannot be made");
    write(new File(folder, "trace.jsonl"), json(line) + "\n", true);
  }

  // --- how the device is set, and which build runs

  private Map<String, Object> cell(String screen, String procedure, String step) {
    Configuration now = app.getResources().getConfiguration();
    boolean isNight = (now.uiMode & Configuration.UI_MODE_NIGHT_MASK) == Configuration.UI_MODE_NIGHT_YES;
    Map<String, Object> cell = new LinkedHashMap<>();
    cell.put("screen", screen);
    cell.put("procedure", procedure);
    cell.put("step", step);
    cell.put("device", Build.DEVICE);
    cell.put("locale", now.locale.toLanguageTag());
    cell.put("theme", isNight ? "dark" : "light");
    cell.put("textScale", Math.round(now.fontScale * 100) / 100.0);
    cell.put("orientation", now.orientation == Configuration.ORIENTATION_LANDSCAPE ? "landscape" : "portrait");
    return cell;
  }

  private Map<String, Object> build() throws IOException {
    Map<String, Object> build = new LinkedHashMap<>();
    try {
      PackageInfo info = app.getPackageManager().getPackageInfo(app.getPackageName(), 0);
      build.put("appId", app.getPackageName());
      build.put("version", String.valueOf(info.versionName));
      build.put("build", String.valueOf(info.versionCode));
      build.put("code", codeOf(new File(app.getPackageCodePath())));
      return build;
    } catch (PackageManager.NameNotFoundException gone) {
      throw new IOException("Fenlok: " + app.getPackageName() + " is not installed", gone);
    }
  }

  /** Sixteen digits of the SHA-256 over those of the dex files, in the order in which they are loaded. */
  private static String codeOf(File apk) throws IOException {
    StringBuilder digests = new StringBuilder();
    try (ZipFile zip = new ZipFile(apk)) {
      for (int i = 1; ; i++) {
        ZipEntry dex = zip.getEntry("classes" + (i == 1 ? "" : i) + ".dex");
        if (dex == null) break;
        if (i > 1) digests.append('\n');
        digests.append(sha256(read(zip.getInputStream(dex))));
      }
    }
    return digests.length() == 0 ? "none" : sha256(digests.toString().getBytes(UTF_8)).substring(0, 16);
  }

  // --- the tree

  /** What is looked at beyond the OS's own dump; what a level does not tell is not named. */
  private static List<Object> carries() {
    List<Object> carries = new ArrayList<>();
    carries.add("label-for");
    carries.add("actions");
    if (HEADING.isThere()) carries.add("headings");
    if (STATE.isThere()) carries.add("values");
    return carries;
  }

  private Map<String, Object> node(AccessibilityNodeInfo info, int[] count) {
    count[0]++;
    Map<String, Object> node = new LinkedHashMap<>();
    node.put("className", text(info.getClassName()));
    node.put("id", idOf(info));
    node.put("text", text(info.getText()));
    node.put("label", text(info.getContentDescription()));
    node.put("hint", text((CharSequence) HINT.on(info)));
    node.put("bounds", bounds(info));
    node.put("clickable", info.isClickable());
    node.put("longClickable", info.isLongClickable());
    node.put("checkable", info.isCheckable());
    node.put("checked", info.isChecked());
    node.put("enabled", info.isEnabled());
    node.put("focusable", info.isFocusable());
    node.put("scrollable", info.isScrollable());
    node.put("selected", info.isSelected());
    node.put("focused", info.isFocused());
    node.put("password", info.isPassword());
    node.put("visible", info.isVisibleToUser());
    putWhatReadersAreTold(info, node);
    List<Object> children = new ArrayList<>();
    for (int i = 0; i < info.getChildCount() && count[0] < MOST_NODES; i++) {
      AccessibilityNodeInfo child = info.getChild(i);
      if (child != null) children.add(node(child, count));
    }
    node.put("children", children);
    return node;
  }

  private void putWhatReadersAreTold(AccessibilityNodeInfo info, Map<String, Object> node) {
    if (HEADING.isThere()) node.put("heading", HEADING.on(info));
    if (Boolean.TRUE.equals(READER_STOPS.on(info))) node.put("isElement", true);
    String value = valueOf(info);
    if (!value.isEmpty()) node.put("value", value);
    putId(node, "labelFor", info.getLabelFor());
    putId(node, "readBefore", info.getTraversalBefore());
    putId(node, "readAfter", info.getTraversalAfter());
    List<Object> actions = new ArrayList<>();
    for (AccessibilityAction action : info.getActionList()) {
      // actions of the platform have a name only where the app gave them another one
      boolean isOfPlatform = action.getId() <= AccessibilityNodeInfo.ACTION_SET_TEXT || (action.getId() >>> 16) == 0x0102;
      if (!isOfPlatform && action.getLabel() != null) actions.add(text(action.getLabel()));
      if (action.getId() == AccessibilityNodeInfo.ACTION_COLLAPSE) node.put("expanded", true);
      if (action.getId() == AccessibilityNodeInfo.ACTION_EXPAND) node.put("expanded", false);
    }
    node.put("actions", actions);
    float sizePx = info.getText() == null ? 0 : textSizePx(info);
    if (sizePx > 0) node.put("textSizeDp", Math.round(sizePx / app.getResources().getDisplayMetrics().density * 100) / 100.0);
  }

  private static String valueOf(AccessibilityNodeInfo info) {
    String state = text((CharSequence) STATE.on(info));
    RangeInfo range = info.getRangeInfo();
    return !state.isEmpty() || range == null ? state : range.getCurrent() + " of " + range.getMax();
  }

  /** Zero where the node does not tell it. */
  private static float textSizePx(AccessibilityNodeInfo info) {
    if (!EXTRA.isThere() || !Boolean.TRUE.equals(RENDERING.on(info, RENDERING_KEY, new Bundle()))) return 0;
    Object extra = EXTRA.on(info);
    if (extra == null) return 0;
    try {
      return (Float) extra.getClass().getMethod(TEXT_SIZE).invoke(extra);
    } catch (ReflectiveOperationException untold) {
      return 0;
    }
  }

  private static void putId(Map<String, Object> node, String key, AccessibilityNodeInfo of) {
    String id = of == null ? "" : idOf(of);
    if (!id.isEmpty()) node.put(key, id);
  }

  private static String idOf(AccessibilityNodeInfo info) {
    String name = info.getViewIdResourceName();
    return name == null ? "" : name.substring(name.indexOf(":id/") < 0 ? 0 : name.indexOf(":id/") + 4);
  }

  private static Map<String, Object> bounds(AccessibilityNodeInfo info) {
    Rect at = new Rect();
    info.getBoundsInScreen(at);
    Map<String, Object> box = new LinkedHashMap<>();
    box.put("x", at.left);
    box.put("y", at.top);
    box.put("width", Math.max(0, at.right - at.left));
    box.put("height", Math.max(0, at.bottom - at.top));
    return box;
  }

  private static String text(CharSequence given) {
    return given == null ? "" : given.toString();
  }

  /** A method of a node that this device may not have. */
  private static final class Call {
    private final int since;
    private final String name;
    private final Class<?>[] parameters;

    Call(int since, String name, Class<?>... parameters) {
      this.since = since;
      this.name = name;
      this.parameters = parameters;
    }

    boolean isThere() {
      return Build.VERSION.SDK_INT >= since;
    }

    /** Null where the device does not have it. */
    Object on(AccessibilityNodeInfo info, Object... arguments) {
      if (!isThere()) return null;
      try {
        return AccessibilityNodeInfo.class.getMethod(name, parameters).invoke(info, arguments);
      } catch (ReflectiveOperationException untold) {
        return null;
      }
    }
  }

  // --- files

  private static String now() {
    SimpleDateFormat form = new SimpleDateFormat("yyyy-MM-dd'T'HH:mm:ss.SSS'Z'", Locale.ROOT);
    form.setTimeZone(TimeZone.getTimeZone("UTC"));
    return form.format(new Date());
  }

  private static void write(File file, String text, boolean appends) throws IOException {
    try (OutputStream out = new FileOutputStream(file, appends)) {
      out.write(text.getBytes(UTF_8));
    }
  }

  private static byte[] read(InputStream in) throws IOException {
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    byte[] piece = new byte[65_536];
    for (int n = in.read(piece); n >= 0; n = in.read(piece)) all.write(piece, 0, n);
    return all.toByteArray();
  }

  private static String sha256(byte[] bytes) throws IOException {
    try {
      StringBuilder hex = new StringBuilder();
      for (byte one : MessageDigest.getInstance("SHA-256").digest(bytes)) hex.append(String.format(Locale.ROOT, "%02x", one));
      return hex.toString();
    } catch (NoSuchAlgorithmException none) {
      throw new IOException(none);
    }
  }

  private static String json(Object value) {
    StringBuilder out = new StringBuilder();
    append(out, value);
    return out.toString();
  }

  private static void append(StringBuilder out, Object value) {
    if (value instanceof Map) {
      String mark = "{";
      for (Map.Entry<?, ?> entry : ((Map<?, ?>) value).entrySet()) {
        out.append(mark);
        append(out, entry.getKey());
        out.append(':');
        append(out, entry.getValue());
        mark = ",";
      }
      out.append(mark.equals("{") ? "{}" : "}");
    } else if (value instanceof List) {
      String mark = "[";
      for (Object one : (List<?>) value) {
        out.append(mark);
        append(out, one);
        mark = ",";
      }
      out.append(mark.equals("[") ? "[]" : "]");
    } else if (value == null || value instanceof Boolean || value instanceof Number) {
      out.append(value);
    } else {
      appendQuoted(out, value.toString());
    }
  }

  private static void appendQuoted(StringBuilder out, String text) {
    out.append('"');
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '"' || c == '\\') out.append('\\').append(c);
      else if (c < ' ' || Character.isSurrogate(c)) out.append(String.format(Locale.ROOT, "\\u%04x", (int) c));
      else out.append(c);
    }
    out.append('"');
  }
}
