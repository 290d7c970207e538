import { mkdir, writeFile } from 'node:fs/promises';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { nodeKernels } from '../src/kernels/node/nodeKernels.ts';
import { measureKernels, measureMemory, measureRound, measureTime } from './cost.ts';
import { measureBorders, measureFrameTime, measureStraightening } from './frames.ts';
import { measureMoves } from './moves.ts';
import { measurePanorama, measureStitchCost } from './panorama.ts';
import { measureQuality } from './quality.ts';
import { measureScattered } from './scattered.ts';
import { measureSphere, measureSphereCost, measureWrap } from './sphere.ts';
import { measureSubjects } from './subjects.ts';
import { toMarkdown, toText, type Table } from './table.ts';

const PICTURES = fileURLToPath(new URL('./out/', import.meta.url));
const REPORT = fileURLToPath(new URL('../docs/performance.md', import.meta.url));

await mkdir(PICTURES, { recursive: true });
const tables: Table[] = [];
const add = (made: Table[]): void => {
  tables.push(...made);
  for (const table of made) console.log(toText(table));
};
add(measureKernels());
add(measureTime());
add([await measureRound()]);
add(measureMemory());
const kernels = nodeKernels();
add(await measureQuality(PICTURES, kernels));
add([await measureSubjects(kernels), await measureMoves(PICTURES, kernels)]);
add([await measureBorders(PICTURES, kernels), await measureScattered(PICTURES, kernels)]);
add([await measureStraightening(kernels), measureFrameTime()]);
add([...(await measurePanorama(PICTURES, kernels)), await measureStitchCost()]);
add([await measureSphere(PICTURES, kernels), await measureWrap(), await measureSphereCost(kernels)]);
kernels.close();
const machine = `${cpus().length} x ${cpus()[0]?.model ?? 'unknown processor'}, Node.js ${process.version}`;
const head = `# Performance\n\nWritten by \`npm run bench\` on ${machine}. Times differ from run to run; compare within one.\n\n`;
await writeFile(REPORT, head + tables.map(toMarkdown).join('\n'));
console.log(`\nWritten to docs/performance.md; pictures are in bench/out.`);
