import fc from 'fast-check';
import { parseConfig } from '../../../src/core/platform/android/parse-config.ts';
import { ANY_CONFIG, formatConfig } from '../../../src/core/platform/android/resource-config.ts';

const oneOf = (...values: string[]) => fc.constantFrom('', ...values);
const folder = fc
  .tuple(
    oneOf('mcc310', 'mcc262'),
    oneOf('mnc00', 'mnc4'),
    oneOf('de', 'de-rAT', 'b+sr+Latn', 'es-r419', 'fil', 'iw', 'b+ar+u+nu+latn'),
    oneOf('feminine'),
    oneOf('ldrtl'),
    oneOf('sw600dp'),
    oneOf('w411dp'),
    oneOf('h720dp'),
    oneOf('large'),
    oneOf('notlong'),
    oneOf('round'),
    oneOf('widecg'),
    oneOf('lowdr'),
    oneOf('land'),
    oneOf('television', 'car'),
    oneOf('night', 'notnight'),
    oneOf('ldpi', 'tvdpi', '420dpi', 'xxxhdpi', 'nodpi', 'anydpi'),
    oneOf('notouch'),
    oneOf('keyssoft'),
    oneOf('qwerty'),
    oneOf('navhidden'),
    oneOf('dpad'),
    oneOf('v21', 'v29.1'),
  )
  .map((parts) => parts.filter(Boolean).join('-'));

test('a folder name comes back as it was, whatever it names', () => {
  fc.assert(
    fc.property(folder, (name) => {
      expect(formatConfig(parseConfig(name)!)).toBe(name);
    }),
  );
  expect(parseConfig('')).toEqual(ANY_CONFIG);
});

test.each(['deutsch', 'rAT', 'xdpi', 'sw600', 'de-fr', 'night-tonight'])('%s names no qualifier', (name) => {
  expect(parseConfig(name)).toBeUndefined();
});
