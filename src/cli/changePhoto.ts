import type { Command } from 'commander';
import { writeFile } from 'node:fs/promises';
import type { RasterImage } from '../core/image/rasterImage.ts';
import { composePatches } from '../operations/composePatches.ts';
import { nodeKernels } from '../kernels/node/nodeKernels.ts';
import { createInProcessRunner } from '../engine/inProcessRunner.ts';
import { createMemoryStore } from '../engine/memoryStore.ts';
import { hexDigest } from '../engine/resultKey.ts';
import { createWorkshop, type Stand, type Workshop } from '../engine/workshop.ts';
import { encoderFor, readMask, readPicture, writePicture } from '../formats/node/pictureFiles.ts';
import { wholeOf } from '../core/image/rect.ts';
import { createPictureSource } from '../engine/pictureSource.ts';
import { operationOf, type StepParams } from '../operations/catalogue.ts';
import { markFromMask } from '../operations/marks/renderMark.ts';
import { distinctTakes, MOST_TAKES, type RankedTake } from '../operations/takes.ts';
import { numberBetween } from './options.ts';

export interface ChangeOptions {
  mark: string;
  donors?: string;
  /** The subject's shadow: marked too, but no part of the subject. */
  shadowMark?: string;
  takes: number;
  seed: number;
  closeness?: number;
  light?: number;
  out: string;
  report?: string;
}

/** The options that Clear and Move share. */
export const withChangeOptions = (command: Command): Command =>
  command
    .argument('<photo>', 'JPEG, PNG, WebP or AVIF')
    .requiredOption('--mark <mask>', 'what is meant: a greyscale picture of the photo’s size, white = marked')
    .option('--donors <mask>', 'where new pixels may come from')
    .option('--takes <n>', 'how many takes to make; the best goes to --out', numberBetween(1, MOST_TAKES, true), 1)
    .option('--seed <n>', 'round of takes: another seed gives other takes', numberBetween(1, 1e9, true), 1)
    .option('--closeness <0..100>', 'looser to closer', numberBetween(0, 100))
    .option('--light <0..100>', 'its own light to the place’s', numberBetween(0, 100))
    .requiredOption('--out <picture>', 'file to write: .png, .jpg or .webp')
    .option('--report <json>', 'file to write times, memory and scores to');

/** One change of one photo: reads, makes takes, writes the best (and the others beside it) and the report. */
export async function changePhoto(
  path: string,
  options: ChangeOptions,
  type: string,
  extra: Record<string, unknown>,
): Promise<void> {
  encoderFor(options.out);
  const { image, workshop, decodeMs } = await openWorkshop(path);
  const mark = markFromMask(await readMask(options.mark, image, 'The mark'));
  const shadow = options.shadowMark && markFromMask(await readMask(options.shadowMark, image, 'The shadow mask'));
  if (shadow) mark.shapes.push(...shadow.shapes.map((shape) => ({ ...shape, combine: 'also' as const })));
  const donors = options.donors && markFromMask(await readMask(options.donors, image, 'The donor mask'));
  const operation = operationOf(type);
  const params = operation.schema.parse({
    mark,
    ...(donors && { donors }),
    ...(shadow && { belongsNot: shadow }),
    take: { strategy: operation.strategies[0], seed: options.seed },
    ...(options.closeness !== undefined && { closeness: options.closeness }),
    ...(options.light !== undefined && { light: options.light }),
    ...extra,
  });
  const { report } = await writeTakes({ image, workshop, decodeMs }, type, params, options);
  if (options.report) await writeFile(options.report, `${JSON.stringify(report, null, 2)}\n`);
}

/** Makes takes of a change of the untouched photo, and writes them: the best to `out`, the others beside it. */
export async function writeTakes(
  { image, workshop, decodeMs }: OpenedPhoto,
  type: string,
  params: StepParams,
  { takes: count, seed, out }: Pick<ChangeOptions, 'takes' | 'seed' | 'out'>,
): Promise<{ takes: RankedTake[]; report: object }> {
  const clock = performance.now();
  const signal = new AbortController().signal;
  const made = await workshop.makeTakes(workshop.origin, type, params, seed - 1, { signal, count });
  const takes = distinctTakes(made);
  const writing = performance.now();
  for (const [index, take] of takes.entries()) {
    const stand = await workshop.after(workshop.origin, type, params, take.result);
    await writePicture(takeName(out, index), await pictureOf(stand));
  }
  const report = {
    photo: { width: image.width, height: image.height },
    made: made.length,
    takes: takes.map(({ spec, result }, index) => ({
      file: takeName(out, index),
      ...spec,
      rank: result.rank,
      timingsMs: result.timings,
      changed: result.patches.map(({ rect }) => rect),
    })),
    decodeMs,
    writeMs: performance.now() - writing,
    totalMs: decodeMs + performance.now() - clock,
    peakMemoryBytes: process.resourceUsage().maxRSS * 1024,
  };
  return { takes, report };
}

export interface OpenedPhoto {
  image: RasterImage;
  workshop: Workshop;
  decodeMs: number;
}

/** A decoded photo with everything that is needed to work on it in this process. */
export async function openWorkshop(path: string): Promise<OpenedPhoto> {
  const clock = performance.now();
  const { bytes, image } = await readPicture(path);
  return {
    image,
    decodeMs: performance.now() - clock,
    workshop: workshopOn(image, await hexDigest(bytes)),
  };
}

/** Everything that is needed to work on a picture in this process. */
export const workshopOn = (image: RasterImage, key: string): Workshop =>
  createWorkshop(
    // Kernels do one thing at a time; frames are carried over while steps wait.
    createPictureSource(image, key, nodeKernels()),
    createInProcessRunner(nodeKernels()),
    createMemoryStore(512 * 2 ** 20),
  );

/** The whole picture as it stands. */
export async function pictureOf({ source, patches }: Stand): Promise<RasterImage> {
  const image = await source.crop(wholeOf(source.photo));
  composePatches(image, { x: 0, y: 0 }, patches);
  return image;
}

const takeName = (out: string, index: number): string =>
  index === 0 ? out : out.replace(/(\.[^.]+)$/, `.take-${index + 1}$1`);
