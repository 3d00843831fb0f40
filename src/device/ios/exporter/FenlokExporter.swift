// Writes captures of the screen in front, and lines of a trace, from a debug build of the app itself (docs/captures.md).
//
// Copy this file into the app, for debug builds alone. A UI test is not told traits, hints, headings and custom actions; the app's own
// accessibility interfaces tell them. It uses public interfaces of UIKit and nothing else; the pages that it follows are below
// https://developer.apple.com/documentation/uikit/ and .../objectivec/nsobject-swift.class/. Nobody here has compiled it.

#if DEBUG
import Foundation
import UIKit

@available(iOS 13.0, *)
public final class FenlokExporter {
  static let mostNodes = 20_000

  struct Nothing: Error {}

  private let folder: URL
  private var count = 0
  private var scale: CGFloat = 1

  /// - Parameter folder: where captures and the trace are written, made where it is not there.
  public init(folder: URL) {
    self.folder = folder
  }

  /// Picture and tree of the window that has the keyboard, on the main thread, while nothing moves.
  ///
  /// - Parameter procedure: what was done before, such as "display-large".
  /// - Returns: the JSON file, beside its PNG.
  @discardableResult
  public func capture(_ screen: String, procedure: String = "as-is", step: String = "") throws -> URL {
    let scenes = UIApplication.shared.connectedScenes.compactMap { $0 as? UIWindowScene }
    let windows = scenes.flatMap { $0.windows }
    guard let window = windows.first(where: { $0.isKeyWindow }) ?? windows.first else { throw Nothing() }
    scale = window.screen.scale
    count = 0
    let format = UIGraphicsImageRendererFormat()
    format.scale = scale
    let picture = UIGraphicsImageRenderer(bounds: window.bounds, format: format).image { _ in
      window.drawHierarchy(in: window.bounds, afterScreenUpdates: true)
    }
    let cell = self.cell(of: window, screen: screen, procedure: procedure, step: step)
    let parts = ["screen", "procedure", "step", "locale", "theme", "textScale", "orientation"].map { "\(cell[$0] ?? "")" }
    let name = parts.filter { !$0.isEmpty }.joined(separator: "-")
      .replacingOccurrences(of: "[^A-Za-z0-9._-]", with: "_", options: .regularExpression)
    let capture: [String: Any] = [
      "fenlok": "capture/1", "platform": "ios", "cell": cell, "at": FenlokExporter.now(),
      "densityDpi": Int(160 * scale), "picture": "\(name).png",
      "carries": ["traits", "values", "headings", "actions", "gestures"],
      "tree": node(window),
    ]
    try FileManager.default.createDirectory(at: folder, withIntermediateDirectories: true)
    try picture.pngData()?.write(to: folder.appendingPathComponent("\(name).png"))
    let file = folder.appendingPathComponent("\(name).json")
    try JSONSerialization.data(withJSONObject: capture).write(to: file)
    return file
  }

  /// One timed line of trace.jsonl.
  public func trace(_ kind: String, _ fields: [String: Any] = [:]) throws {
    var line = fields
    line["at"] = FenlokExporter.now()
    line["kind"] = kind
    let json = try JSONSerialization.data(withJSONObject: line) + Data("\n".utf8)
    try FileManager.default.createDirectory(at: folder, withIntermediateDirectories: true)
    let file = folder.appendingPathComponent("trace.jsonl")
    guard let handle = try? FileHandle(forWritingTo: file) else { return try json.write(to: file) }
    handle.seekToEndOfFile()
    handle.write(json)
    handle.closeFile()
  }

  // MARK: how the device is set

  private func cell(of window: UIWindow, screen: String, procedure: String, step: String) -> [String: Any] {
    let ordinaryBody: CGFloat = 17
    let body = UIFont.preferredFont(forTextStyle: .body).pointSize
    return [
      "screen": screen, "procedure": procedure, "step": step, "device": UIDevice.current.model,
      "locale": Bundle.main.preferredLocalizations.first ?? "en",
      "theme": window.traitCollection.userInterfaceStyle == .dark ? "dark" : "light",
      "textScale": Double((body / ordinaryBody * 100).rounded()) / 100,
      "orientation": window.bounds.width > window.bounds.height ? "landscape" : "portrait",
    ]
  }

  // MARK: the tree

  /// A view, or an element that a view made for readers alone.
  private func node(_ element: NSObject) -> [String: Any] {
    count += 1
    let view = element as? UIView
    var node: [String: Any] = [
      "className": String(describing: type(of: element)),
      "id": (element as? UIAccessibilityIdentification)?.accessibilityIdentifier ?? "",
      "label": element.accessibilityLabel ?? "",
      "hint": element.accessibilityHint ?? "",
      "bounds": bounds(of: element),
      "isElement": element.isAccessibilityElement,
      "hidden": element.accessibilityElementsHidden,
      "traits": traits(of: element),
      "heading": element.accessibilityTraits.contains(.header),
      "selected": element.accessibilityTraits.contains(.selected),
      "enabled": !element.accessibilityTraits.contains(.notEnabled),
      "actions": (element.accessibilityCustomActions ?? []).map { $0.name },
      "visible": isVisible(view),
    ]
    if let value = element.accessibilityValue, !value.isEmpty { node["value"] = value }
    if let view = view { put(view, into: &node) }
    node["children"] = children(of: element).map { self.node($0) }
    return node
  }

  /// What is drawn, and what fingers do to it.
  private func put(_ view: UIView, into node: inout [String: Any]) {
    if let label = view as? UILabel {
      node["text"] = label.text ?? ""
      // a label is called by its text where it was given no other name
      if label.accessibilityLabel == label.text { node["label"] = "" }
      node["textSizeDp"] = Double(label.font.pointSize)
      node["bold"] = label.font.fontDescriptor.symbolicTraits.contains(.traitBold)
    }
    if let field = view as? UITextField {
      node["text"] = field.text ?? ""
      node["hint"] = field.placeholder ?? ""
      node["password"] = field.isSecureTextEntry
    }
    if let field = view as? UITextView {
      node["text"] = field.text ?? ""
    }
    if let control = view as? UISwitch {
      node["checkable"] = true
      node["checked"] = control.isOn
    }
    let gestures = view.gestureRecognizers ?? []
    node["clickable"] = view is UIControl || gestures.contains { $0 is UITapGestureRecognizer } || view is UITableViewCell
    node["longClickable"] = gestures.contains { $0 is UILongPressGestureRecognizer }
    node["swipeable"] = gestures.contains { $0 is UISwipeGestureRecognizer }
    node["focusable"] = view.canBecomeFocused
    node["focused"] = view.isFirstResponder
    node["scrollable"] = (view as? UIScrollView)?.isScrollEnabled ?? false
  }

  /// What a view made for readers takes the place of its subviews.
  private func children(of element: NSObject) -> [NSObject] {
    guard count < FenlokExporter.mostNodes else { return [] }
    let made = (element.accessibilityElements ?? []).compactMap { $0 as? NSObject }
    if !made.isEmpty { return made }
    return (element as? UIView)?.subviews.filter { !$0.isHidden && $0.alpha > 0.01 } ?? []
  }

  private func isVisible(_ view: UIView?) -> Bool {
    guard let view = view else { return true }
    return !view.isHidden && view.alpha > 0.01 && view.window != nil
  }

  private func traits(of element: NSObject) -> [String] {
    let of = element.accessibilityTraits
    var traits: [String] = []
    if of.contains(.button) { traits.append("button") }
    if of.contains(.link) { traits.append("link") }
    if of.contains(.header) { traits.append("heading") }
    if of.contains(.image) { traits.append("image") }
    if of.contains(.staticText) { traits.append("text") }
    if of.contains(.searchField) { traits.append("searchField") }
    if of.contains(.adjustable) { traits.append(element is UISlider ? "slider" : "adjustable") }
    if element is UITextField || element is UITextView { traits.append("field") }
    if element is UISwitch { traits.append("switch") }
    if element is UIProgressView { traits.append("progress") }
    if element is UITableView || element is UICollectionView { traits.append("list") }
    return traits
  }

  /// Points become pixels of the picture.
  private func bounds(of element: NSObject) -> [String: Any] {
    let frame: CGRect
    if let view = element as? UIView { frame = view.convert(view.bounds, to: nil) } else { frame = element.accessibilityFrame }
    return [
      "x": Double((frame.minX * scale).rounded()), "y": Double((frame.minY * scale).rounded()),
      "width": Double(max(0, frame.width * scale).rounded()), "height": Double(max(0, frame.height * scale).rounded()),
    ]
  }

  private static func now() -> String {
    let formatter = ISO8601DateFormatter()
    formatter.formatOptions = [.withInternetDateTime, .withFractionalSeconds]
    return formatter.string(from: Date())
  }
}
#endif
