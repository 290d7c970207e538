import config from './e2e.config.ts';

/** Makes the pictures in docs/screenshots anew, from the demo data. */
export default { ...config, testDir: './screenshots', reporter: 'list' as const };
