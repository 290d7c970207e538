import { Command, Option } from 'commander';
import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import { FingoError } from '../core/errors.ts';
import { cropImage, type RasterImage } from '../core/image/rasterImage.ts';
import { createMask, pasteMask, type Mask } from '../core/mask/mask.ts';
import { findReflection } from '../core/segment/findReflection.ts';
import { findShadow } from '../core/segment/findShadow.ts';
import { findSubjectMatte } from '../core/segment/findSubjectMatte.ts';
import { reachOfColour, type ReachTarget } from '../core/segment/colourReach.ts';
import { formatFor, readMask, readPicture, writeMask } from '../formats/node/pictureFiles.ts';
import { nodeKernels } from '../kernels/node/nodeKernels.ts';
import { EMPTY_MARK } from '../operations/marks/markSchema.ts';
import { maskUnder, renderMark } from '../operations/marks/renderMark.ts';
import { subjectRegion } from '../operations/rebuild/subjectRegions.ts';
import { numberBetween, parseShift } from './options.ts';

/** Marks made from the picture; each is written as a greyscale picture, white = marked. */
export const markCommand = (): Command =>
  new Command('mark')
    .description('Make a mark: a subject inside a loop, a colour, a shadow, a reflection.')
    .addCommand(subjectCommand())
    .addCommand(reachCommand())
    .addCommand(
      castCommand('shadow', 'The cast shadow of a subject.', (picture, subject) =>
        findShadow(picture, subject, nodeKernels(1)),
      ),
    )
    .addCommand(castCommand('reflection', 'The reflection of a subject in a level surface.', findReflection));

const points = z.array(z.tuple([z.number(), z.number()])).min(3);

const subjectCommand = (): Command =>
  new Command('subject')
    .description('The subject inside a loose loop, as a soft mask.')
    .argument('<photo>')
    .requiredOption('--loop <json>', 'file with the loop: [[x, y], ...] in px of the photo')
    .requiredOption('--out <mask>', 'picture to write')
    .action(async (path: string, options: { loop: string; out: string }) => {
      formatFor(options.out);
      const { image } = await readPicture(path);
      const loop = (await readLoop(options.loop)).flat();
      const mark = { ...EMPTY_MARK, shapes: [{ kind: 'lasso' as const, combine: 'startOver' as const, points: loop }] };
      const rect = subjectRegion(mark, image);
      if (rect.width === 0 || rect.height === 0) {
        throw new FingoError('nothing-marked', 'The loop lies outside the picture; use px of the photo.');
      }
      const inside = maskUnder(renderMark(mark, image), rect);
      const matte = findSubjectMatte(cropImage(image, rect), inside, { generosity: 0 }, nodeKernels(1));
      const whole = createMask(image.width, image.height);
      pasteMask(whole, rect, matte);
      await writeMask(options.out, whole);
    });

async function readLoop(path: string): Promise<[number, number][]> {
  const refuse = (): never => {
    throw new FingoError('bad-arguments', `"${path}" is no loop; write at least three points as [[x, y], ...].`);
  };
  const text = await readFile(path, 'utf8').catch(refuse);
  try {
    return points.parse(JSON.parse(text));
  } catch {
    return refuse();
  }
}

const reachCommand = (): Command =>
  new Command('reach')
    .description('Everything of a colour.')
    .argument('<photo>')
    .addOption(new Option('--at <x,y>', 'the colour at this point').argParser(parseShift))
    .addOption(new Option('--near <what>', 'near-white, near-black, or no data').choices(['white', 'black', 'none']))
    .option('--tolerance <0..255>', 'largest difference in any channel', numberBetween(0, 255), 24)
    .option('--everywhere', 'everywhere in the photo, not only the area connected to the point')
    .requiredOption('--out <mask>', 'picture to write')
    .action(
      async (
        path: string,
        options: {
          at?: { dxPx: number; dyPx: number };
          near?: 'white' | 'black' | 'none';
          tolerance: number;
          everywhere?: boolean;
          out: string;
        },
      ) => {
        formatFor(options.out);
        const target: ReachTarget | undefined =
          options.near ?? (options.at && { x: options.at.dxPx, y: options.at.dyPx });
        if (!target) throw new FingoError('bad-arguments', 'Say which colour: give --at X,Y or --near white.');
        const { image } = await readPicture(path);
        const { tolerance } = options;
        await writeMask(options.out, reachOfColour(image, target, { tolerance, connected: !options.everywhere }));
      },
    );

const castCommand = (name: string, description: string, find: (picture: RasterImage, subject: Mask) => Mask): Command =>
  new Command(name)
    .description(description)
    .argument('<photo>')
    .requiredOption('--subject <mask>', 'the subject: a greyscale picture of the photo’s size, white = subject')
    .requiredOption('--out <mask>', 'picture to write')
    .action(async (path: string, options: { subject: string; out: string }) => {
      formatFor(options.out);
      const { image } = await readPicture(path);
      const subject: Mask = await readMask(options.subject, image, 'The subject mask');
      await writeMask(options.out, find(image, subject));
    });
