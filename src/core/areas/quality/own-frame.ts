/** Where to begin reading a stack: the app's own frame that is nearest to the cause. */
import type { StackFrame, Thrown } from '../../model/stack.ts';

const PLATFORM =
  /^(?:java|javax|jdk|sun|android|androidx|dalvik|libcore|kotlin|kotlinx|com\.android|com\.google\.android)\./;
const PLATFORM_LIBRARY = /^(?:lib\w+\.dylib|dyld|\?\?\?|libc\.so|libart\.so|boot.*\.oat|base\.odex)$/;

/**
 * @param isOwnFirst whether a class or library is the app's own, by its name
 * @returns nothing where the stack has no frame
 */
export function ownFrame(
  thrown: readonly Thrown[],
  isOwnFirst: (className: string) => boolean,
): { frame: StackFrame; isOwn: boolean } | undefined {
  // the last cause is the first thing that went wrong
  const frames = thrown.toReversed().flatMap((one) => one.frames);
  const own = frames.find(({ className }) => isOwnFirst(className));
  if (own) return { frame: own, isOwn: true };
  const other = frames.find(
    ({ className }) => !PLATFORM.test(className) && !PLATFORM_LIBRARY.test(className),
  );
  const frame = other ?? frames[0];
  return frame && { frame, isOwn: false };
}

/** `example.kelpline.Cart.total, line 12`. */
export const formatFrame = ({ className, line, method }: StackFrame): string =>
  `${className}.${method}${line === undefined ? '' : `, line ${line}`}`;
