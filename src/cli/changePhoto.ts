import type { Command } from 'commander';
import { writeFile } from 'node:fs/promises';
import type { RasterImage } from '../core/image/rasterImage.ts';
import { composePatches } from '../operations/composePatches.ts';
import { nodeKernels } from '../kernels/node/nodeKernels.ts';
import { createInProcessRunner } from '../engine/inProcessRunner.ts';
import { createMemoryStore } from '../engine/memoryStore.ts';
import { hexDigest } from '../engine/resultKey.ts';
import { createWorkshop, type Stand, type Workshop } from '../engine/workshop.ts';
import {
  encoderFor,
  maskOf,
  readMask,
  readPicture,
  writePicture,
  type OpenedPicture,
} from '../formats/node/pictureFiles.ts';
import { wholeOf } from '../core/image/rect.ts';
import { createPictureSource } from '../engine/pictureSource.ts';
import { operationOf, type StepParams } from '../operations/catalogue.ts';
import { markFromMask } from '../operations/marks/renderMark.ts';
import { distinctTakes, MOST_TAKES, type RankedTake } from '../operations/takes.ts';
import { viewOfMark } from '../operations/sphere/markInView.ts';
import { viewSchema } from '../operations/sphere/viewSchema.ts';
import type { SphereView } from '../core/sphere/sphereView.ts';
import type { FileMetadata } from '../formats/metadata/fileMetadata.ts';
import { numberBetween, parseView } from './options.ts';
import { readSphere } from './sphereFile.ts';

export interface ChangeOptions {
  mark: string;
  donors?: string;
  /** The subject's shadow: marked too, but no part of the subject. */
  shadowMark?: string;
  /** Work in a direct view of a sphere: this one, or the one that suits the mark. */
  sphere?: boolean;
  view?: Pick<SphereView, 'yaw' | 'pitch' | 'fov'>;
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
    .option('--sphere', 'the photo is a 360-degree picture; it is worked on in a direct view that suits the mark')
    .option('--view <yaw,pitch,fov>', 'the direct view that all masks are pictures of, degrees', parseView)
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
  const isSphere = options.sphere || options.view !== undefined;
  const opened = await openWorkshop(path, isSphere);
  const { view, size, mark } = isSphere
    ? await markOnSphere(options, opened.image)
    : {
        view: undefined,
        size: opened.image,
        mark: markFromMask(await readMask(options.mark, opened.image, 'The mark')),
      };
  const shadow = options.shadowMark && markFromMask(await readMask(options.shadowMark, size, 'The shadow mask'));
  if (shadow) mark.shapes.push(...shadow.shapes.map((shape) => ({ ...shape, combine: 'also' as const })));
  const donors = options.donors && markFromMask(await readMask(options.donors, size, 'The donor mask'));
  const operation = operationOf(type);
  const params = operation.schema.parse({
    mark,
    ...(view && { view }),
    ...(donors && { donors }),
    ...(shadow && { belongsNot: shadow }),
    take: { strategy: operation.strategies[0], seed: options.seed },
    ...(options.closeness !== undefined && { closeness: options.closeness }),
    ...(options.light !== undefined && { light: options.light }),
    ...extra,
  });
  const { report } = await writeTakes(opened, type, params, options);
  if (options.report) await writeFile(options.report, `${JSON.stringify(report, null, 2)}\n`);
}

/** The direct view of a sphere that a change is made in, the size of its masks, and the mark in it. */
async function markOnSphere({ mark: path, view: asked }: ChangeOptions, sphere: RasterImage) {
  if (!asked) {
    const found = viewOfMark(markFromMask(await readMask(path, sphere, 'The mark')), sphere);
    return { ...found, size: found.view };
  }
  const { image } = await readPicture(path);
  const view = viewSchema.parse({ ...asked, width: image.width, height: image.height });
  return { view, size: view, mark: markFromMask(maskOf(image)) };
}

/** Makes takes of a change of the untouched photo, and writes them: the best to `out`, the others beside it. */
export async function writeTakes(
  { image, workshop, decodeMs, metadata }: OpenedPhoto,
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
    await writePicture(takeName(out, index), await pictureOf(stand), metadata);
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
  /** What is told beside the pixels in files of the changed picture. */
  metadata?: FileMetadata;
}

/** A decoded photo, or sphere, with everything that is needed to work on it in this process. */
export async function openWorkshop(path: string, isSphere = false): Promise<OpenedPhoto> {
  const clock = performance.now();
  const opened: OpenedPicture & Pick<OpenedPhoto, 'metadata'> = await (isSphere ? readSphere : readPicture)(path);
  const { bytes, image, metadata } = opened;
  return {
    image,
    ...(metadata && { metadata }),
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
