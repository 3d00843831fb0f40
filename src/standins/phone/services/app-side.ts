/** What services of the phone need of the apps on it, whichever system it runs. */
import type { PhoneApp, ScreenHost } from '../app-model.ts';

export interface ServedApp {
  appId: string;
  model: PhoneApp;
  storage: Map<string, string>;
}

export interface AppSide<App extends ServedApp> {
  isOnline(): boolean;
  runnable(appId: string): App | undefined;
  isRunning(app: App): boolean;
  /** Runs code of the app on the screen that its user sees. @returns whether they see one */
  onScreen(app: App, called: string, code: (host: ScreenHost) => void): boolean;
  /** By the process of the app. */
  log(app: App, priority: 'D' | 'W', tag: string, text: string): void;
  /** What lies over the app goes. */
  closeCover(): void;
}
