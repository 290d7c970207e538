import { readdirSync } from 'node:fs';

/** Names of all kinds of steps, as their folders are called. */
export const KIND_NAMES: readonly string[] = readdirSync(new URL('../../src/operations/kinds', import.meta.url));
