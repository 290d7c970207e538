import { Command, Option } from 'commander';
import { writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { NO_TURN } from '../core/panorama/camera.ts';
import { partOfSphere } from '../core/panorama/layOut.ts';
import { withSphereTags } from '../formats/metadata/sphereTags.ts';
import { findGaps, usualGrowPx } from '../core/panorama/findGaps.ts';
import type { ProjectionChoice } from '../core/panorama/layOut.ts';
import { coveredRect } from '../engine/panoramaPlan.ts';
import { openStitcher } from '../engine/stitcher.ts';
import { MAX_MEGAPIXELS } from '../formats/limits.ts';
import { readFocalShare } from '../formats/focalShare.ts';
import { endingsInWords } from '../formats/formats.ts';
import { formatFor, readPicture, writePicture } from '../formats/node/pictureFiles.ts';
import { nodeKernels } from '../kernels/node/nodeKernels.ts';
import { openVision } from '../vision/vision.ts';
import { closeGaps } from './closeGaps.ts';

interface StitchOptions {
  projection: ProjectionChoice;
  crop: 'generous' | 'inside';
  closeGaps?: boolean;
  out: string;
  report?: string;
}

export const stitchCommand = (): Command =>
  new Command('stitch')
    .description('Put overlapping frames, in any order, together to a straight panorama.')
    .argument('<frames...>', 'two or more photos taken from one place')
    .addOption(
      new Option('--projection <kind>', 'how directions become places of the picture')
        .choices(['auto', 'planar', 'cylindrical', 'spherical'])
        .default('auto'),
    )
    .addOption(
      new Option('--crop <how>', 'all that any frame covers, or the largest rectangle without gaps')
        .choices(['generous', 'inside'])
        .default('generous'),
    )
    .option('--close-gaps', 'rebuild what no frame covers')
    .requiredOption('--out <picture>', `file to write: ${endingsInWords()}`)
    .option('--report <json>', 'file to write cameras, gains, errors, times and memory to')
    .action(stitch);

async function stitch(paths: string[], options: StitchOptions): Promise<void> {
  formatFor(options.out);
  const clock = performance.now();
  const files = await Promise.all(
    paths.map(async (path) => ({
      name: basename(path),
      focalShare: await readFocalShare(path),
      open: async () => (await readPicture(path)).image,
    })),
  );
  const kernels = nodeKernels();
  const stitcher = await openStitcher(files, await openVision(), kernels, MAX_MEGAPIXELS * 1e6);
  const aligned = performance.now();
  const plan = await stitcher.plan({ projection: options.projection, turn: NO_TURN, pulled: [] });
  const part = options.crop === 'inside' ? coveredRect(plan) : plan.layout.bounds;
  const panorama = await stitcher.render(plan, part);
  const rendered = performance.now();
  const gaps = findGaps(panorama, 'none', 254, usualGrowPx(panorama));
  const hasGaps = gaps.data.includes(255);
  const finished = options.closeGaps && hasGaps ? await closeGaps(panorama, gaps) : panorama;
  const sphere = partOfSphere(plan.layout, part);
  await writePicture(options.out, finished, sphere ? { xmp: withSphereTags(undefined, sphere) } : {});
  if (!options.report) return;
  const { frames, overlaps, order } = stitcher.report;
  const report = {
    frames: frames.map(({ name, rotation, ...frame }, index) => ({ file: paths[index], name, ...frame, rotation })),
    overlaps,
    order,
    projection: plan.layout.projection,
    viewDeg: plan.layout.viewDeg,
    closed: plan.layout.closed,
    crop: part,
    gaps: hasGaps,
    alignMs: aligned - clock,
    renderMs: rendered - aligned,
    totalMs: performance.now() - clock,
    peakMemoryBytes: process.resourceUsage().maxRSS * 1024,
  };
  await writeFile(options.report, `${JSON.stringify(report, null, 2)}\n`);
}
