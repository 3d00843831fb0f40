/** Facts of logs and crash reports, and of the files that give code its names back. */
import type { CodeUse } from '../app-package.ts';
import type { Symbols } from '../symbols.ts';
import type { TroubleSort } from '../trouble.ts';
import type { OfPackage } from './base.ts';

interface OfLog extends OfPackage {
  /** Name of the log or report. */
  file: string;
}

/** One log or report, as far as it is about the app. */
export interface DeviceLogFact extends OfLog {
  kind: 'device-log';
  /** 0 where it is a report of one crash. */
  lines: number;
  /** The app was running while it was written. */
  sawApp: boolean;
  /** Crashes were left out: the runs of drills tell of them. */
  withoutCrashes?: true;
  /** Activities of the app that were made, and that ended; none where the log has no events. */
  made: string[];
  ended: string[];
  /** Which version, where it tells. */
  version: string;
}

/** A crash, a warning or another trouble in a log. */
export interface TroubleFact extends OfLog {
  kind: 'trouble';
  sort: TroubleSort;
  /** As the log writes it. */
  at: string;
  thread: string;
  /** The innermost cause, where one is told. */
  exception: string;
  message: string;
  /** The frame to begin at: the app's own that is nearest to the cause. */
  frame: string;
  /** Whether `frame` is the app's own code. */
  isOwn: boolean;
  /** What `frame` may be as well, where several methods were given one name. */
  or: string[];
  /** Of the innermost cause, the innermost first. */
  frames: string[];
  /** What the system says besides. */
  about: string;
  framesSkipped: number;
  count: number;
}

/** A mapping file or a dSYM that was added. */
export interface SymbolsFact extends OfPackage, Symbols {
  kind: 'symbols';
  file: string;
}

/** What a part of the build says it was made with, so that its symbols can be told from others. */
export interface BuildIdsFact extends OfPackage {
  kind: 'build-ids';
  /** `code` of an Android package; the name of a binary. */
  part: string;
  sort: Symbols['sort'];
  /** Any of them will do. */
  ids: string[];
}

/** What the code calls and says of what checks ask about. */
export interface PlatformCallsFact extends OfPackage, Pick<CodeUse, 'calls' | 'texts'> {
  kind: 'platform-calls';
}

/** Whether the package of an iOS app says that it encrypts beyond what is exempt. */
export interface ExportKeyFact extends OfPackage {
  kind: 'export-key';
  /** As Info.plist has it: `true` and `false` are answers, anything else is none. */
  value?: boolean | string;
}
