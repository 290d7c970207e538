import swc from '@swc/jest';

/**
 * Each test file runs in a context of its own, where every look at a global is slow: loops that call Math, or compare
 * with Infinity, take five times as long and more. A module that looks once and keeps it does not.
 */
const KEPT = ['Math', 'Number', 'Infinity', 'NaN', 'Uint8Array', 'Int32Array', 'Float32Array', 'Float64Array'];
const KEEP = `const { ${KEPT.join(', ')} } = globalThis; `;

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    const kept = (result) => ({ ...result, code: KEEP + result.code });
    return {
      ...inner,
      canInstrument: false,
      process: (...args) => kept(inner.process(...args)),
      processAsync: async (...args) => kept(await inner.processAsync(...args)),
      getCacheKey: (...args) => `${KEEP}${inner.getCacheKey(...args)}`,
    };
  },
};
