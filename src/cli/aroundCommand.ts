import { Command, InvalidArgumentError } from 'commander';
import { drain } from '../core/progress.ts';
import { endingsInWords } from '../formats/formats.ts';
import { formatFor, writePicture } from '../formats/node/pictureFiles.ts';
import { nodeKernels } from '../kernels/node/nodeKernels.ts';
import { seeSphere } from '../operations/sphere/seeSphere.ts';
import { NARROWEST_VIEW, WIDEST_VIEW } from '../operations/sphere/viewSchema.ts';
import { numberBetween } from './options.ts';
import { readSphere } from './sphereFile.ts';

interface AroundOptions {
  yaw: number;
  pitch: number;
  roll: number;
  fov: number;
  size: { width: number; height: number };
  out: string;
}

const LARGEST_SIDE = 6000;

function parseSize(text: string): { width: number; height: number } {
  const [width = 0, height = 0] = (/^(\d+)x(\d+)$/.exec(text) ?? []).slice(1).map(Number);
  if (width < 16 || height < 16 || width > LARGEST_SIDE || height > LARGEST_SIDE) {
    throw new InvalidArgumentError(`Give a size from 16x16 to ${LARGEST_SIDE}x${LARGEST_SIDE}, like 1600x1200.`);
  }
  return { width, height };
}

export const aroundCommand = (): Command =>
  new Command('around')
    .description('Look into a 360-degree picture: a direct view of it as a flat picture.')
    .argument('<photo>', 'a sphere (equirectangular, twice as wide as high), or a part of one by its metadata')
    .option('--yaw <degrees>', 'to the right of straight ahead', numberBetween(-180, 180), 0)
    .option('--pitch <degrees>', 'up; -90 is straight down', numberBetween(-90, 90), 0)
    .option('--roll <degrees>', 'clockwise', numberBetween(-180, 180), 0)
    .option('--fov <degrees>', 'angle of view from left to right', numberBetween(NARROWEST_VIEW, WIDEST_VIEW), 90)
    .option('--size <WxH>', 'px of the view', parseSize, { width: 1600, height: 1200 })
    .requiredOption('--out <picture>', `file to write: ${endingsInWords()}`)
    .action(async (photo: string, { yaw, pitch, roll, fov, size, out }: AroundOptions) => {
      formatFor(out);
      const { image } = await readSphere(photo);
      await writePicture(out, drain(seeSphere(image, { yaw, pitch, roll, fov, ...size }, [], nodeKernels())));
    });
