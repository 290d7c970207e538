import { Command } from 'commander';
import { findGaps, usualGrowPx } from '../core/panorama/findGaps.ts';
import { joinPhotos } from '../core/panorama/joinPhotos.ts';
import { drain } from '../core/progress.ts';
import { endingsInWords } from '../formats/formats.ts';
import { formatFor, readPicture, writePicture } from '../formats/node/pictureFiles.ts';
import { nodeKernels } from '../kernels/node/nodeKernels.ts';
import { closeGaps } from './closeGaps.ts';
import { numberBetween } from './options.ts';

interface JoinCommandOptions {
  gap: number;
  tone: number;
  out: string;
}

export const joinCommand = (): Command =>
  new Command('join')
    .description('Join two photos side by side; the space between is rebuilt to lead from one to the other.')
    .argument('<first>', 'stays as it is')
    .argument('<second>', 'made as high as the first, in its tone')
    .option('--gap <px>', 'space between; below 0 they overlap', numberBetween(-4000, 4000, true), 200)
    .option('--tone <0..100>', 'how far the second takes on the tone of the first', numberBetween(0, 100), 100)
    .requiredOption('--out <picture>', `file to write: ${endingsInWords()}`)
    .action(async (first: string, second: string, { gap, tone, out }: JoinCommandOptions) => {
      formatFor(out);
      const [a, b] = [(await readPicture(first)).image, (await readPicture(second)).image];
      const joined = drain(joinPhotos(a, b, { gapPx: gap, tone: tone / 100 }, nodeKernels()));
      await writePicture(
        out,
        gap > 0 ? await closeGaps(joined, findGaps(joined, 'none', 254, usualGrowPx(joined))) : joined,
      );
    });
