/** Toolkits that apps are made with, beside the platform's own views. */
export type ToolkitName =
  | 'Compose'
  | 'Flutter'
  | 'React Native'
  | 'Unity'
  | 'Godot'
  | '.NET'
  | 'a web view shell'
  | 'SwiftUI';

export interface MadeWith {
  toolkit: ToolkitName;
  /** What in the package says so: a file, a folder, a class. */
  mark: string;
}
