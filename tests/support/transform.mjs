// Strips the types of a file by swc. In a context of Node's `vm` each look at a global goes through an interceptor, which costs more
// than most arithmetic: the modules of a test get those that loops use as constants of their own.
import swc from '@swc/jest';

const GLOBALS = [
  ...['Array', 'JSON', 'Map', 'Math', 'Number', 'Object', 'Set', 'String', 'WeakMap'],
  ...[
    'Float32Array',
    'Float64Array',
    'Int16Array',
    'Int32Array',
    'Int8Array',
    'Uint16Array',
    'Uint32Array',
    'Uint8Array',
  ],
];
const constants = `const ${GLOBALS.map((name) => `${name}=globalThis.${name}`).join(',')};`;

export default {
  ...swc,
  createTransformer: (options) => {
    const inner = swc.createTransformer(options);
    const within = ({ code, ...rest }) => ({ code: constants + code, ...rest });
    return {
      ...inner,
      process: (...of) => within(inner.process(...of)),
      processAsync: async (...of) => within(await inner.processAsync(...of)),
      getCacheKey: (...of) => `${inner.getCacheKey(...of)} ${constants}`,
    };
  },
};
