// A lookout for Fenlok: a UI test that sees and touches apps, and answers to lines of JSON (docs/ios.md).
//
// Copy this file into a UI test target, and hold it open from one test method:
//
//   func testLookout() throws { try FenlokLookout(token: "…").serve() }
//
// It uses the public UI test framework and sockets of the system, and nothing else. Beside each call stands the page that it follows,
// below https://developer.apple.com/documentation/xcuiautomation/ . Nobody here has compiled it.

import Foundation
import Network
import UIKit
import XCTest

final class FenlokLookout {
  static let version = 1
  static let springboard = "com.apple.springboard"
  static let linesKept = 10_000
  static let longestRequest = 1 << 20
  static let idleSeconds: TimeInterval = 600

  private let token: String
  private let port: UInt16
  private let queue = DispatchQueue(label: "fenlok.lookout")
  private var apps: [String: XCUIApplication] = [:]
  private var told: [[String: String]] = []
  private var droppedLines = 0
  private var requests: [(Peer, [String: Any])] = []
  private let lock = NSCondition()

  init(token: String, port: UInt16 = 4767) {
    self.token = token
    self.port = port
  }

  /// Until a peer says `bye`, or nobody has asked for ten minutes.
  func serve() throws {
    let listener = try NWListener(using: .tcp, on: NWEndpoint.Port(rawValue: port)!)
    listener.newConnectionHandler = { [weak self] connection in
      guard let self = self else { return }
      let peer = Peer(connection)
      connection.start(queue: self.queue)
      self.receive(from: peer)
    }
    listener.start(queue: queue)
    defer { listener.cancel() }
    // elements may be asked on the thread of the test alone
    while let (peer, request) = nextRequest() {
      let id = request["id"] ?? NSNull()
      do {
        if request["ask"] as? String == "bye" {
          peer.say(["id": id, "done": [String: Any]()])
          return
        }
        peer.say(["id": id, "done": try answer(request)])
      } catch let error as NotDone {
        peer.say(["id": id, "refused": error.why, "code": error.code])
      } catch {
        peer.say(["id": id, "refused": "\(error)", "code": "failed"])
      }
    }
  }

  // MARK: what is asked

  private func answer(_ request: [String: Any]) throws -> [String: Any] {
    switch request["ask"] as? String {
    case "start":
      let app = try application(request)
      // xcuiapplication/launcharguments, launchenvironment, launch()
      app.launchArguments = request["arguments"] as? [String] ?? []
      app.launchEnvironment = request["environment"] as? [String: String] ?? [:]
      app.launch()
      return [:]
    case "bring":
      try application(request).activate()  // xcuiapplication/activate()
      return [:]
    case "end":
      try application(request).terminate()  // xcuiapplication/terminate()
      return [:]
    case "throw-away":
      return try throwAway(application(request))
    case "state":
      return ["state": name(of: try application(request).state)]
    case "look":
      return try look(request)
    case "picture":
      // xcuiscreen/screenshot(), xcuiscreenshot/pngrepresentation
      return ["png": XCUIScreen.main.screenshot().pngRepresentation.base64EncodedString()]
    case "tap":
      try point(request).tap()  // xcuicoordinate/tap()
      return [:]
    case "hold":
      try point(request).press(forDuration: seconds(request))  // xcuicoordinate/press(forduration:)
      return [:]
    case "drag":
      guard let from = request["from"] as? [String: Any], let to = request["to"] as? [String: Any] else {
        throw NotDone("unknown", "drag needs from and to")
      }
      try point(from).press(forDuration: 0.05, thenDragTo: point(to))  // xcuicoordinate/press(forduration:thendragto:)
      return [:]
    case "write":
      try application(request).typeText(request["text"] as? String ?? "")  // xcuielement/typetext(_:)
      return [:]
    case "home":
      XCUIDevice.shared.press(.home)  // xcuidevice/press(_:)
      return [:]
    case "turn":
      // xcuidevice/orientation
      if let to = request["to"] as? String {
        XCUIDevice.shared.orientation = to == "landscape" ? .landscapeLeft : .portrait
      }
      return ["is": XCUIDevice.shared.orientation.isLandscape ? "landscape" : "portrait"]
    case "appearance":
      return try appearance(request["to"] as? String)
    case "shade":
      return try shade(open: request["open"] as? Bool ?? false)
    case "open":
      return try open(request)
    case "answer":
      return ["asked": answerAlert(allow: request["allow"] as? Bool ?? false)]
    case "forget":
      return try forget(request)
    case "lines":
      return lines(from: request["from"] as? Int ?? 0)
    default:
      throw NotDone("unknown", "ask: \(request["ask"] ?? "nothing")")
    }
  }

  private func application(_ request: [String: Any]) throws -> XCUIApplication {
    guard let id = request["app"] as? String, !id.isEmpty else { throw NotDone("unknown", "app is missing") }
    return application(id)
  }

  private func application(_ id: String) -> XCUIApplication {
    let app = apps[id] ?? XCUIApplication(bundleIdentifier: id)  // xcuiapplication/init(bundleidentifier:)
    apps[id] = app
    return app
  }

  // xcuiapplication/state-swift.enum
  private func name(of state: XCUIApplication.State) -> String {
    switch state {
    case .runningForeground: return "front"
    case .runningBackground: return "background"
    case .runningBackgroundSuspended: return "suspended"
    case .notRunning: return "not-running"
    default: return "unknown"
    }
  }

  /// In the switcher the card is pushed up; what the app gave the system to keep is thrown away with it.
  private func throwAway(_ app: XCUIApplication) throws -> [String: Any] {
    if app.state == .notRunning { app.activate() }
    if app.state != .runningForeground { app.activate() }
    let screen = application(FenlokLookout.springboard)
    let bottom = screen.coordinate(withNormalizedOffset: CGVector(dx: 0.5, dy: 0.999))
    let middle = screen.coordinate(withNormalizedOffset: CGVector(dx: 0.5, dy: 0.5))
    let top = screen.coordinate(withNormalizedOffset: CGVector(dx: 0.5, dy: 0.05))
    if #available(iOS 15.0, *) {
      // xcuicoordinate/press(forduration:thendragto:withvelocity:thenholdforduration:)
      bottom.press(forDuration: 0.05, thenDragTo: middle, withVelocity: .slow, thenHoldForDuration: 0.8)
    } else {
      bottom.press(forDuration: 0.05, thenDragTo: middle)
    }
    middle.press(forDuration: 0.05, thenDragTo: top)
    // xcuiapplication/wait(for:timeout:)
    if !app.wait(for: .notRunning, timeout: 3) { app.terminate() }
    XCUIDevice.shared.press(.home)
    return [:]
  }

  private func look(_ request: [String: Any]) throws -> [String: Any] {
    let ids = request["apps"] as? [String] ?? []
    let front = ids.first { application($0).state == .runningForeground } ?? ""
    let system = application(FenlokLookout.springboard)
    // xcuielementtypequeryprovider/alerts
    let isCovered = request["system"] as? Bool ?? false || system.alerts.firstMatch.exists || front.isEmpty
    let owner = isCovered ? FenlokLookout.springboard : front
    // xcuielementsnapshotproviding/snapshot()
    let tree = try application(owner).snapshot()
    return ["front": front, "owner": owner, "scale": scale, "tree": node(tree)]
  }

  /// Pixels of a picture a point: XCTest tells the size of both.
  private lazy var scale = Double(XCUIScreen.main.screenshot().image.scale)

  // xcuielementattributes
  private func node(_ element: XCUIElementSnapshot) -> [String: Any] {
    let frame = element.frame.isNull || element.frame.isInfinite ? CGRect.zero : element.frame
    var node: [String: Any] = [
      "kind": kind(of: element.elementType),
      "frame": ["x": frame.minX, "y": frame.minY, "width": frame.width, "height": frame.height],
    ]
    if !element.identifier.isEmpty { node["identifier"] = element.identifier }
    if !element.label.isEmpty { node["label"] = element.label }
    if let value = element.value, "\(value)" != "" { node["value"] = "\(value)" }
    if let placeholder = element.placeholderValue { node["placeholder"] = placeholder }
    if !element.isEnabled { node["enabled"] = false }
    if element.isSelected { node["selected"] = true }
    if element.hasFocus { node["focused"] = true }
    let children = element.children.map { self.node($0) }
    if !children.isEmpty { node["children"] = children }
    return node
  }

  private func kind(of type: XCUIElement.ElementType) -> String {
    return FenlokLookout.kinds[type] ?? "other"
  }

  // xcuielement/elementtype-swift.enum
  private static let kinds: [XCUIElement.ElementType: String] = [
    .application: "application", .window: "window", .alert: "alert", .sheet: "sheet", .button: "button", .radioButton: "radioButton",
    .checkBox: "checkBox", .toggle: "toggle", .switch: "switch", .link: "link", .cell: "cell", .image: "image",
    .icon: "icon", .staticText: "staticText", .textField: "textField", .secureTextField: "secureTextField",
    .textView: "textView", .searchField: "searchField", .slider: "slider", .stepper: "stepper", .picker: "picker",
    .progressIndicator: "progressIndicator", .activityIndicator: "activityIndicator", .scrollView: "scrollView",
    .table: "table", .collectionView: "collectionView", .navigationBar: "navigationBar", .tabBar: "tabBar",
    .tab: "tab", .toolbar: "toolbar", .keyboard: "keyboard", .key: "key", .menu: "menu", .menuItem: "menuItem",
    .webView: "webView",
  ]

  private func point(_ of: [String: Any]) throws -> XCUICoordinate {
    guard let x = of["x"] as? Double, let y = of["y"] as? Double else { throw NotDone("unknown", "x and y are missing") }
    // xcuielement/coordinate(withnormalizedoffset:), xcuicoordinate/withoffset(_:)
    let origin = application(FenlokLookout.springboard).coordinate(withNormalizedOffset: .zero)
    return origin.withOffset(CGVector(dx: x, dy: y))
  }

  private func seconds(_ request: [String: Any]) -> TimeInterval {
    return min(30, max(0, request["seconds"] as? Double ?? 1))
  }

  private func appearance(_ to: String?) throws -> [String: Any] {
    guard #available(iOS 15.0, *) else { throw NotDone("not-here", "appearance needs iOS 15") }
    // xcuidevice/appearance
    if let to = to { XCUIDevice.shared.appearance = to == "dark" ? .dark : .light }
    return ["is": XCUIDevice.shared.appearance == .dark ? "dark" : "light"]
  }

  private func shade(open: Bool) throws -> [String: Any] {
    let screen = application(FenlokLookout.springboard)
    let top = screen.coordinate(withNormalizedOffset: CGVector(dx: 0.5, dy: 0.001))
    let bottom = screen.coordinate(withNormalizedOffset: CGVector(dx: 0.5, dy: 0.999))
    let middle = screen.coordinate(withNormalizedOffset: CGVector(dx: 0.5, dy: 0.4))
    if open { top.press(forDuration: 0.05, thenDragTo: bottom) } else { bottom.press(forDuration: 0.05, thenDragTo: middle) }
    return [:]
  }

  private func open(_ request: [String: Any]) throws -> [String: Any] {
    guard let text = request["url"] as? String, let url = URL(string: text) else { throw NotDone("unknown", "url: no URL") }
    guard #available(iOS 16.4, *) else { throw NotDone("not-here", "opening links needs iOS 16.4") }
    if let id = request["app"] as? String {
      application(id).open(url)  // xcuiapplication/open(_:)
    } else {
      XCUIDevice.shared.system.open(url)  // xcuisystem/open(_:)
    }
    return [:]
  }

  /// The system's own question: the last of its buttons allows, the first refuses.
  private func answerAlert(allow: Bool) -> Bool {
    let alert = application(FenlokLookout.springboard).alerts.firstMatch
    // xcuielement/waitforexistence(timeout:)
    guard alert.waitForExistence(timeout: 2) else { return false }
    let buttons = alert.buttons
    buttons.element(boundBy: allow ? buttons.count - 1 : 0).tap()
    return true
  }

  private func forget(_ request: [String: Any]) throws -> [String: Any] {
    guard #available(iOS 13.4, *) else { throw NotDone("not-here", "forgetting permissions needs iOS 13.4") }
    let resources: [String: XCUIProtectedResource] = [
      "calendar": .calendar, "camera": .camera, "contacts": .contacts, "location": .location,
      "microphone": .microphone, "photos": .photos, "reminders": .reminders,
    ]
    guard let what = request["what"] as? String, let resource = resources[what] else {
      throw NotDone("not-here", "no public interface resets that permission")
    }
    // xcuiapplication/resetauthorizationstatus(for:)
    try application(request).resetAuthorizationStatus(for: resource)
    return [:]
  }

  private func lines(from: Int) -> [String: Any] {
    lock.lock()
    defer { lock.unlock() }
    let kept = Array(told.dropFirst(max(0, from - droppedLines)))
    return ["lines": kept, "next": droppedLines + told.count, "now": FenlokLookout.now()]
  }

  // MARK: who asks

  private func receive(from peer: Peer) {
    peer.connection.receive(minimumIncompleteLength: 1, maximumLength: 65_536) { [weak self] data, _, isOver, error in
      guard let self = self, let data = data, error == nil, !isOver else { return peer.connection.cancel() }
      peer.rest.append(data)
      while let end = peer.rest.firstIndex(of: 10) {
        let line = peer.rest[peer.rest.startIndex..<end]
        peer.rest = Data(peer.rest[peer.rest.index(after: end)...])
        guard let request = (try? JSONSerialization.jsonObject(with: line)) as? [String: Any] else {
          return peer.connection.cancel()
        }
        self.take(request, from: peer)
      }
      if peer.rest.count > FenlokLookout.longestRequest { return peer.connection.cancel() }
      self.receive(from: peer)
    }
  }

  /// `tell` comes from the app on this device, which knows no token; everything else needs a `hello` before.
  private func take(_ request: [String: Any], from peer: Peer) {
    switch request["ask"] as? String {
    case "tell":
      guard let line = request["line"] as? String, line.utf8.count <= 65_536 else { return }
      lock.lock()
      told.append(["at": FenlokLookout.now(), "app": request["app"] as? String ?? "", "line": line])
      if told.count > FenlokLookout.linesKept { told.removeFirst(); droppedLines += 1 }
      lock.unlock()
    case "hello":
      let id = request["id"] ?? NSNull()
      if request["lookout"] as? Int != FenlokLookout.version {
        peer.say(["id": id, "refused": "this is lookout \(FenlokLookout.version)", "code": "version"])
      } else if request["token"] as? String != token {
        peer.say(["id": id, "refused": "the token is another one", "code": "token"])
      } else {
        peer.isKnown = true
        DispatchQueue.main.async { peer.say(["id": id, "done": self.introduction()]) }
      }
    default:
      guard peer.isKnown else {
        return peer.say(["id": request["id"] ?? NSNull(), "refused": "say hello first", "code": "hello"])
      }
      lock.lock()
      requests.append((peer, request))
      lock.signal()
      lock.unlock()
    }
  }

  private func introduction() -> [String: Any] {
    let size = XCUIScreen.main.screenshot().image.size
    let device = UIDevice.current
    return [
      "lookout": FenlokLookout.version, "system": device.systemVersion, "model": device.model, "name": device.name,
      "id": ProcessInfo.processInfo.environment["SIMULATOR_UDID"] ?? device.identifierForVendor?.uuidString ?? device.name,
      "widthPt": Double(size.width), "heightPt": Double(size.height), "scale": scale,
    ]
  }

  private func nextRequest() -> (Peer, [String: Any])? {
    let end = Date().addingTimeInterval(FenlokLookout.idleSeconds)
    while Date() < end {
      lock.lock()
      let next = requests.isEmpty ? nil : requests.removeFirst()
      lock.unlock()
      if let next = next { return next }
      // lets what waits for the main thread go on
      RunLoop.current.run(until: Date().addingTimeInterval(0.02))
    }
    return nil
  }

  private static func now() -> String {
    let formatter = ISO8601DateFormatter()
    formatter.formatOptions = [.withInternetDateTime, .withFractionalSeconds]
    return formatter.string(from: Date())
  }
}

private final class Peer {
  let connection: NWConnection
  var rest = Data()
  var isKnown = false

  init(_ connection: NWConnection) {
    self.connection = connection
  }

  func say(_ answer: [String: Any]) {
    guard var line = try? JSONSerialization.data(withJSONObject: answer) else { return }
    line.append(10)
    connection.send(content: line, completion: .contentProcessed { _ in })
  }
}

private struct NotDone: Error {
  let code: String
  let why: String

  init(_ code: String, _ why: String) {
    self.code = code
    self.why = why
  }
}
