import { readFileSync, writeFileSync } from 'node:fs';
import { nodeKernels } from '../src/kernels/node/nodeKernels.ts';
import { discMark } from './cost.ts';
import { FIRST_ROUND, rebuild } from './rebuild.ts';
import { boardsPhoto } from './scenes.ts';

export interface Probe {
  ownMb: number;
  growthMb: number;
}

/** A figure of this process as the system counts it. */
function kilobytes(name: 'VmRSS' | 'VmHWM'): number {
  const line = readFileSync('/proc/self/status', 'utf8').match(new RegExp(`${name}:\\s+(\\d+) kB`));
  return Number(line![1]);
}

const [width, height] = process.argv.slice(2).map(Number) as [number, number];
const kernels = nodeKernels(1);
// The code itself and its compiled form are no part of what a photo needs.
const small = boardsPhoto(640, 480);
rebuild(small, discMark(small, 0.04), FIRST_ROUND[0]!, kernels);
const photo = boardsPhoto(width, height);
const mark = discMark(photo, 0.04);
(globalThis as { gc?: () => void }).gc?.();
// Linux: the peak is counted anew from here on.
writeFileSync('/proc/self/clear_refs', '5');
const before = kilobytes('VmRSS');
rebuild(photo, mark, FIRST_ROUND[0]!, kernels);
const growth = kilobytes('VmHWM') - before;
const probe: Probe = {
  ownMb: (photo.data.byteLength + mark.data.byteLength) / 1e6,
  growthMb: (growth * 1024) / 1e6,
};
console.log(JSON.stringify(probe));
