import { Command } from 'commander';
import { writeFile } from 'node:fs/promises';
import { encoderFor, readMask } from '../formats/node/pictureFiles.ts';
import { markFromMask } from '../operations/marks/renderMark.ts';
import { stretchOperation } from '../operations/stretch/index.ts';
import { stretchSchema } from '../operations/stretch/schema.ts';
import { openWorkshop, writeTakes } from './changePhoto.ts';
import { numberBetween } from './options.ts';

interface StretchOptions {
  width?: number;
  height?: number;
  keep?: string;
  out: string;
  report?: string;
}

const side = numberBetween(16, 30_000, true);

export const stretchCommand = (): Command =>
  new Command('stretch')
    .description('Widen or narrow the photo along its least noticeable paths.')
    .argument('<photo>', 'JPEG, PNG, WebP or AVIF')
    .option('--width <px>', 'new width; the photo’s own if not given', side)
    .option('--height <px>', 'new height; the photo’s own if not given', side)
    .option('--keep <mask>', 'what keeps its shape: a greyscale picture of the photo’s size, white = kept')
    .requiredOption('--out <picture>', 'file to write: .png, .jpg or .webp')
    .option('--report <json>', 'file to write times and memory to')
    .action(async (path: string, options: StretchOptions) => {
      encoderFor(options.out);
      const opened = await openWorkshop(path);
      const { image } = opened;
      const params = stretchSchema.parse({
        width: options.width ?? image.width,
        height: options.height ?? image.height,
        ...(options.keep && { keep: markFromMask(await readMask(options.keep, image, 'What is kept')) }),
        take: { strategy: stretchOperation.strategies[0], seed: 1 },
      });
      const { report } = await writeTakes(opened, 'stretch', params, { takes: 1, seed: 1, out: options.out });
      if (options.report) await writeFile(options.report, `${JSON.stringify(report, null, 2)}\n`);
    });
