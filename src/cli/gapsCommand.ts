import { Command, Option } from 'commander';
import { FingoError } from '../core/errors.ts';
import { findGaps, usualGrowPx, type GapKind } from '../core/panorama/findGaps.ts';
import { endingsInWords } from '../formats/formats.ts';
import { formatFor, readPicture, writeMask } from '../formats/node/pictureFiles.ts';
import { numberBetween } from './options.ts';

interface GapsOptions {
  near: GapKind;
  tolerance: number;
  grow?: number;
  outMask: string;
}

export const gapsCommand = (): Command =>
  new Command('gaps')
    .description('Find what is vacant in a panorama, as a mark to clear.')
    .argument('<photo>', 'JPEG, PNG, WebP or AVIF')
    .addOption(
      new Option('--near <what>', 'vacant is what is transparent, or near white or black at the edge')
        .choices(['none', 'white', 'black'])
        .default('none'),
    )
    .option('--tolerance <0..255>', 'how far a colour may be from it', numberBetween(0, 255), 8)
    .option('--grow <px>', 'mark so much more around each gap; by default by the picture’s size', numberBetween(0, 400))
    .requiredOption('--out-mask <picture>', `file to write: ${endingsInWords()}`)
    .action(async (path: string, { near, tolerance, grow, outMask }: GapsOptions) => {
      formatFor(outMask);
      const { image } = await readPicture(path);
      const gaps = findGaps(image, near, tolerance, grow ?? usualGrowPx(image));
      if (!gaps.data.includes(255)) {
        throw new FingoError(
          'nothing-marked',
          'No gap was found; try --near white or --near black, or a higher --tolerance.',
        );
      }
      await writeMask(outMask, gaps);
    });
