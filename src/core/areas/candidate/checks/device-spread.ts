/** Every device that the team names was looked at: what is right on a large phone is cut on a small one. */

import { z } from 'zod';
import type { CaptureFact } from '../../../model/fact.ts';
import type { Intent } from '../../../model/intent.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  device: z.string(),
  densityDpi: z.number(),
  widthDp: z.number(),
  heightDp: z.number(),
  seen: z.array(z.string()),
});

export const deviceSpread = defineCheck({
  id: 'device-spread',
  area: 'candidate',
  priority: 'wrong',
  standard: 'Our own: devices of the intent file',
  basis: 'estimated',
  needs: 'capture',
  data: dataSchema,
  words: ({ densityDpi, device, heightDp, seen, widthDp }) => ({
    what: `Nothing was captured on ${device}`,
    measured: `captures of ${seen.join('; ')}`,
    required: `${device}: ${widthDp} × ${heightDp} dp at ${densityDpi} dpi (devices in fenlok.yaml)`,
    why: 'What fits one size and density may be cut, blurred or out of reach on another.',
    remedy: `Capture the screens on such a device: fenlok drill capture-sweep --device SERIAL. A phone that can be overridden does: fenlok hold --size ${Math.round((widthDp * densityDpi) / 160)}x${Math.round((heightDp * densityDpi) / 160)} --density ${densityDpi}`,
  }),

  *run(facts, { devices }) {
    const captures = facts.of('capture');
    if (devices.length === 0)
      yield { outcome: 'untested', because: 'fenlok.yaml names no devices (devices)' };
    const seen = [...new Set(captures.map(formatDevice))].sort();
    for (const device of devices) {
      if (captures.some((capture) => isLike(capture, device))) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'cantTell',
          draft: {
            identity: { subject: `device ${device.name}` },
            basis: 'estimated',
            severity: 1,
            digest: 'no capture',
            occurrence: {
              evidence: captures[0]!.evidence,
              shown: device.name,
              data: {
                device: device.name,
                densityDpi: device.densityDpi,
                widthDp: device.widthDp,
                heightDp: device.heightDp,
                seen,
              },
            },
          },
        };
    }
  },

  doc: {
    looksAt: 'Size and density of every capture',
    against:
      'The devices of `fenlok.yaml`: the same density, and a width and height within a tenth, whichever way it is held',
    matters: 'Most bugs of layout live on the devices that nobody on the team carries.',
    measured: 'The size of the picture in dp, and the density that the device told.',
    errs: 'A device of the same size may still differ: in its system bars, its font, its hinge.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'devices:\n  - { name: small phone, densityDpi: 320, widthDp: 360, heightDp: 640 }\n  - { name: tablet, densityDpi: 320, widthDp: 800, heightDp: 1280 }',
      },
    ],
  },
});

const toDp = (px: number, densityDpi: number): number => Math.round((px * 160) / densityDpi);

const formatDevice = ({ cell, densityDpi, heightPx, widthPx }: CaptureFact): string =>
  `${cell.device}, ${toDp(Math.min(widthPx, heightPx), densityDpi)} × ${toDp(Math.max(widthPx, heightPx), densityDpi)} dp at ${densityDpi} dpi`;

/** Rounded sizes and bars that are left out of a capture. */
const WITHIN = 0.1;

function isLike({ densityDpi, heightPx, widthPx }: CaptureFact, device: Intent['devices'][number]): boolean {
  if (densityDpi !== device.densityDpi) return false;
  const near = (seen: number, wanted: number) => Math.abs(seen / wanted - 1) <= WITHIN;
  const sides = (a: number, b: number) => [Math.min(a, b), Math.max(a, b)] as const;
  const [short, long] = sides(toDp(widthPx, densityDpi), toDp(heightPx, densityDpi));
  const [shortWanted, longWanted] = sides(device.widthDp, device.heightDp);
  return near(short, shortWanted) && near(long, longWanted);
}
