import { Command, InvalidArgumentError } from 'commander';
import { writeFile } from 'node:fs/promises';
import { FingoError } from '../core/errors.ts';
import { AS_TAKEN, type Upright } from '../core/geometry/frameGeometry.ts';
import { withEdges, withRatio } from '../core/geometry/frameRects.ts';
import { plateOf } from '../core/geometry/plate.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import { wholeOf, type Rect } from '../core/image/rect.ts';
import { findUpright } from '../core/planes/findUpright.ts';
import { encoderFor, writePicture } from '../formats/node/pictureFiles.ts';
import { reframeOperation } from '../operations/reframe/index.ts';
import { reframeSchema, type FrameParams } from '../operations/reframe/schema.ts';
import { photoInFrame } from '../operations/reframe/vacancy.ts';
import { MOST_TAKES } from '../operations/takes.ts';
import { openWorkshop, pictureOf, writeTakes } from './changePhoto.ts';
import { numberBetween, numbers } from './options.ts';

interface FrameOptions {
  ratio?: number;
  edges?: number[];
  level?: number | 'auto';
  square?: number[] | 'auto';
  takes: number;
  seed: number;
  rim: number;
  passes: number;
  out: string;
  plate?: string;
  report?: string;
}

const RADIANS = Math.PI / 180;

const orAuto =
  <T>(parse: (text: string) => T) =>
  (text: string): T | 'auto' =>
    text === 'auto' ? text : parse(text);

export const frameCommand = (): Command =>
  new Command('frame')
    .description(
      'Give the photo another frame: level, square up, cut, carry past its edges; what is vacant is rebuilt.',
    )
    .argument('<photo>', 'JPEG, PNG, WebP or AVIF')
    .option('--ratio <w:h>', 'widen to this ratio, like 4:5', parseRatio)
    .option('--edges <l,t,r,b>', 'px more on each side; fewer if negative', numbers(4))
    .option('--level <degrees|auto>', 'turn clockwise, or by the photo’s lines', orAuto(numberBetween(-45, 45)))
    .option('--square <v,h|auto>', 'degrees to tilt down and aside, or by the photo’s lines', orAuto(numbers(2)))
    .option('--takes <n>', 'how many takes to make; the best goes to --out', numberBetween(1, MOST_TAKES, true), 1)
    .option('--seed <n>', 'round of takes: another seed gives other takes', numberBetween(1, 1e9, true), 1)
    .option('--rim <px>', 'how far the rebuilt part overlaps the photo', numberBetween(0, 400, true), 4)
    .option('--passes <n>', 'in how many steps outward', numberBetween(1, 6, true), 1)
    .requiredOption('--out <picture>', 'file to write: .png, .jpg or .webp')
    .option('--plate <png>', 'only the new margins, the photo’s place transparent')
    .option('--report <json>', 'file to write times, memory and scores to')
    .action(frame);

async function frame(path: string, options: FrameOptions): Promise<void> {
  encoderFor(options.out);
  const opened = await openWorkshop(path);
  const { image, workshop } = opened;
  const upright = uprightOf(image, options);
  const frame: FrameParams = { ...upright, rect: rectOf(image, options) };
  const params = reframeSchema.parse({
    frame,
    rimPx: options.rim,
    passes: options.passes,
    take: { strategy: reframeOperation.strategies[0], seed: options.seed },
  });
  const { takes, report } = await writeTakes(opened, 'reframe', params, options);
  if (options.plate) {
    const best = await pictureOf(await workshop.after(workshop.origin, 'reframe', params, takes[0]!.result));
    await writePicture(options.plate, plateOf(best, photoInFrame(frame, image), 'soft', options.rim));
  }
  if (options.report) await writeFile(options.report, `${JSON.stringify({ ...report, frame }, null, 2)}\n`);
}

function rectOf(image: RasterImage, { ratio, edges }: FrameOptions): Rect {
  const [left, top, right, bottom] = (edges ?? [0, 0, 0, 0]).map(Math.round);
  const rect = withEdges(wholeOf(image), { left: left!, top: top!, right: right!, bottom: bottom! });
  return ratio ? withRatio(rect, ratio, 'widen') : rect;
}

function uprightOf(image: RasterImage, { level, square }: FrameOptions): Upright {
  const found = level === 'auto' || square === 'auto' ? findUpright(image) : undefined;
  const untold = (what: string): FingoError =>
    new FingoError('bad-arguments', `The photo has too few straight lines to ${what} it by; give the degrees instead.`);
  if (square === 'auto') {
    if (!found?.square) throw untold('square up');
    return found.square;
  }
  if (level === 'auto' && found?.level === undefined) throw untold('level');
  const turn = level === 'auto' ? found!.level! : (level ?? 0) * RADIANS;
  return { ...AS_TAKEN, turn, pitch: (square?.[0] ?? 0) * RADIANS, yaw: (square?.[1] ?? 0) * RADIANS };
}

function parseRatio(text: string): number {
  const match = /^(\d+(?:\.\d+)?):(\d+(?:\.\d+)?)$/.exec(text);
  const ratio = match ? Number(match[1]) / Number(match[2]) : NaN;
  if (!(ratio >= 0.05 && ratio <= 20)) throw new InvalidArgumentError('Give a ratio like 4:5, from 1:20 to 20:1.');
  return ratio;
}
