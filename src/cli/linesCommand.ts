import { Command } from 'commander';
import { writeFile } from 'node:fs/promises';
import { cropImage } from '../core/image/rasterImage.ts';
import { FingoError } from '../core/errors.ts';
import { createTwinKernels } from '../core/kernels/twinKernels.ts';
import { findOutlines, runOnLines } from '../core/lines/runOnLines.ts';
import { boundsOf } from '../core/mask/mask.ts';
import { readMask, readPicture } from '../formats/node/pictureFiles.ts';
import { markFromMask, maskUnder, renderMark } from '../operations/marks/renderMark.ts';
import { movedLine } from '../operations/rebuild/movedLine.ts';
import { rebuildRegion } from '../operations/rebuild/rebuildRegion.ts';

/** The lines that run on through a mark, to be changed by hand and given to --lines. */
export const linesCommand = (): Command =>
  new Command('lines')
    .description('Find the lines that run on through a mark: poles, joints, kerbs. Changed or not, --lines takes them.')
    .argument('<photo>', 'JPEG, PNG, WebP or AVIF')
    .requiredOption('--mark <mask>', 'what is to be rebuilt: a greyscale picture of the photo’s size, white = marked')
    .requiredOption(
      '--out <json>',
      'file to write: the points and widths of each line in px of the photo, and whether it is on',
    )
    .action(async (path: string, { mark: maskPath, out }: { mark: string; out: string }) => {
      const { image } = await readPicture(path);
      const mark = markFromMask(await readMask(maskPath, image, 'The mark'));
      const region = rebuildRegion({ mark }, image);
      const mask = maskUnder(renderMark(mark, image), region);
      const lines = runOnLines(findOutlines(cropImage(image, region), mask.data, boundsOf(mask), createTwinKernels()));
      if (lines.length === 0) {
        throw new FingoError('not-found', 'No line runs on through the mark; give points by hand, or go without.');
      }
      await writeFile(
        out,
        `${JSON.stringify(
          lines.map((line) => movedLine(line, region.x, region.y)),
          null,
          1,
        )}\n`,
      );
    });
