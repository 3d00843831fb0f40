/** No exception that nobody catches ends the app, and it answers at all times. */

import { z } from 'zod';
import { formerDrillName } from '../../../model/drill.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastRuns } from '../../lifecycle/runs/class-of-run.ts';
import { ENDED_BY_ITSELF } from '../../lifecycle/runs/crash-in-log.ts';
import { hintOfNames } from '../words.ts';

const dataSchema = z.strictObject({
  drill: z.string(),
  step: z.string(),
  exception: z.string(),
  frame: z.string(),
  message: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const crash = defineCheck({
  id: 'crash',
  area: 'quality',
  priority: 'app-ends',
  standard: 'Android vitals, Crashes and ANRs',
  basis: 'measured',
  needs: 'drill-run',
  data: dataSchema,
  words: ({ drill, exception, frame, message, step }) => {
    const when = drill === 'roam' ? 'on a walk of its own' : `in the drill ${drill}`;
    return {
      what: exception ? `The app crashes ${when}` : `The app does not answer ${when}`,
      measured: exception ? `${exception}: ${message}` : 'the system offered to close it',
      required: 'no exception that nobody catches, and an answer within 5 seconds',
      why: `${frame ? `Thrown in ${frame}. ` : ''}${step ? `The way there: ${step}. ` : ''}Whatever the user was doing is lost.`,
      remedy:
        exception === ENDED_BY_ITSELF
          ? 'Take the crash report from the device, and add it: fenlok add REPORT.ips'
          : `The whole stack is in the trace of this run, among its log lines.${hintOfNames(frame)}`,
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
    for (const { cell, crash: crashed, drill, evidence, notResponding } of lastRuns(facts)) {
      if (!crashed && !notResponding) {
        yield { outcome: 'passed', cell };
        continue;
      }
      const { exception, frame, message } = crashed ?? { exception: '', frame: '', message: '' };
      const place = { screen: cell.screen, subject: crashed ? frame || exception : 'not responding' };
      const former = formerDrillName(drill);
      yield {
        outcome: 'failed',
        cell,
        draft: {
          identity: { ...place, aspect: drill },
          ...(former && { formerly: { ...place, aspect: former } }),
          basis: 'measured',
          severity: crashed ? 2 : 1,
          digest: exception,
          occurrence: {
            evidence,
            cell,
            shown: exception,
            data: { drill, step: cell.step, exception, frame, message },
          },
        },
      };
    }
  },

  doc: {
    looksAt: 'The log of every drill and roam',
    against: 'No uncaught exception, and the app answers',
    matters: 'Whatever the user was doing is lost, and stores rank apps that crash lower.',
    measured:
      "The log of every drill and walk, for exceptions that nobody caught and for the system's word that the app does not answer.",
    errs: 'Native crashes that the device keeps out of the log are not seen. On iOS no log is read: the app is opened, and is not there.',
    fixes: [
      {
        where: 'The trace of the run',
        language: 'sh',
        code: 'fenlok report html    # the whole stack is among the log lines of the run',
      },
    ],
  },
});
