/** Lists move without standing still: the system counts the frames that an app did not draw in time (`Choreographer`). */

import { z } from 'zod';
import { type Assertion, defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  most: z.number(),
  count: z.number(),
  file: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const skippedFrames = defineCheck({
  id: 'skipped-frames',
  area: 'quality',
  priority: 'harder',
  standard: 'Android developers, Slow rendering',
  basis: 'measured',
  needs: 'device-log',
  reads: ['trouble'],
  data: dataSchema,
  words: ({ count, file, most }) => ({
    what: 'The screen stands still while something else is done',
    measured: `up to ${most} frames in a row were not drawn${count > 1 ? `, ${count} times` : ''}, says ${file}`,
    required: 'a frame each time that the display asks for one',
    why: 'At 60 frames a second, 30 of them are half a second in which a touch does nothing.',
    remedy: 'Look at the lines of the log before it: what runs there belongs on another thread.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    for (const { count, evidence, file, framesSkipped, sort } of facts.of('trouble'))
      if (sort === 'skipped-frames')
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: 'frames' },
            basis: 'measured',
            severity: framesSkipped / 30,
            digest: `${Math.round(framesSkipped / 30)}`,
            occurrence: { evidence, shown: 'frames', data: { most: framesSkipped, count, file } },
          },
        };
    // the log names only long pauses: shorter ones are seen by nobody here
    if (facts.of('device-log').some(({ sawApp }) => sawApp))
      yield {
        outcome: 'untested',
        because: 'a log tells of pauses of 30 frames and more, and of no shorter ones',
      };
  },

  doc: {
    looksAt: 'Lines of `Choreographer` in logs that were added',
    against: 'No pause of 30 frames or more',
    matters: 'A list that stands still while it is moved looks broken.',
    measured: 'The system writes such a line after 30 frames that were not drawn.',
    errs: 'Shorter pauses are not in the log, so that a log without these lines does not pass.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'val pictures = withContext(Dispatchers.Default) { decodeAll(files) }',
      },
    ],
  },
});
