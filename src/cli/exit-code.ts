/** What a call tells the one that made it. After a signal it is 128 and the signal's number, as shells have it. */
export const exitCode = {
  done: 0,
  blocked: 1,
  wrongCall: 2,
  unreadable: 3,
  open: 4,
  outOfReach: 5,
  interrupted: 130,
} as const;
export type ExitCode = (typeof exitCode)[keyof typeof exitCode];
