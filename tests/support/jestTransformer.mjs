import swc from '@swc/jest';

/**
 * Each test file runs in a context of its own, where every look at a global is slow: loops that call Math take ten
 * times as long. A module that looks once and keeps it does not.
 */
const KEEP_MATH = 'const Math = globalThis.Math; ';

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    const kept = (result) => ({ ...result, code: KEEP_MATH + result.code });
    return {
      ...inner,
      canInstrument: false,
      process: (...args) => kept(inner.process(...args)),
      processAsync: async (...args) => kept(await inner.processAsync(...args)),
      getCacheKey: (...args) => `${KEEP_MATH}${inner.getCacheKey(...args)}`,
    };
  },
};
