import { Command } from 'commander';
import { writeFile } from 'node:fs/promises';
import { FingoError } from '../core/errors.ts';
import { cropImage } from '../core/image/rasterImage.ts';
import { findPlanes } from '../core/planes/findPlanes.ts';
import { readMask, readPicture } from '../formats/node/pictureFiles.ts';
import { markFromMask, maskUnder, renderMark } from '../operations/marks/renderMark.ts';
import { movedPlane } from '../operations/rebuild/movedPlane.ts';
import { rebuildRegion } from '../operations/rebuild/rebuildRegion.ts';

/** The planes that a mark would be rebuilt along, to be changed by hand and given to --planes. */
export const planesCommand = (): Command =>
  new Command('planes')
    .description('Find the planes around a mark: ground, walls, boards. Changed or not, --planes takes them.')
    .argument('<photo>', 'JPEG, PNG, WebP or AVIF')
    .requiredOption('--mark <mask>', 'what is to be rebuilt: a greyscale picture of the photo’s size, white = marked')
    .requiredOption('--out <json>', 'file to write: the corners of each plane in px of the photo, and whether it is on')
    .action(async (path: string, { mark: maskPath, out }: { mark: string; out: string }) => {
      const { image } = await readPicture(path);
      const mark = markFromMask(await readMask(maskPath, image, 'The mark'));
      const region = rebuildRegion({ mark }, image);
      const planes = findPlanes(cropImage(image, region), maskUnder(renderMark(mark, image), region).data);
      if (planes.length === 0) {
        throw new FingoError('not-found', 'No plane shows around the mark; give corners by hand, or go without.');
      }
      const found = planes.map((plane) => movedPlane(plane, region.x, region.y));
      await writeFile(out, `${JSON.stringify(found, null, 1)}\n`);
    });
