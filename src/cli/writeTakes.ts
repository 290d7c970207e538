import type { RasterImage } from '../core/image/rasterImage.ts';
import { composePatches } from '../operations/composePatches.ts';
import { nodeKernels } from '../kernels/node/nodeKernels.ts';
import { createInProcessRunner } from '../engine/inProcessRunner.ts';
import { createMemoryStore } from '../engine/memoryStore.ts';
import { hexDigest } from '../operations/contentHash.ts';
import { createWorkshop, type Rendering, type Workshop } from '../engine/workshop.ts';
import { readPicture, writePicture, type OpenedPicture } from '../formats/node/pictureFiles.ts';
import { wholeOf } from '../core/image/rect.ts';
import { createPictureSource } from '../engine/pictureSource.ts';
import type { StepParams } from '../operations/kind.ts';
import { distinctTakes, type RankedTake } from '../operations/takes.ts';
import type { FileMetadata } from '../formats/metadata/fileMetadata.ts';
import { readSphere } from './sphereFile.ts';

/** Makes takes of a change of the untouched photo, and writes them: the best to `out`, the others beside it. */
export async function writeTakes(
  { image, workshop, decodeMs, metadata }: OpenedPhoto,
  type: string,
  params: StepParams,
  { takes: count, seed, out }: { takes: number; seed: number; out: string },
): Promise<{ takes: RankedTake[]; report: object }> {
  const clock = performance.now();
  const signal = new AbortController().signal;
  const made = await workshop.makeTakes(workshop.origin, type, params, seed - 1, { signal, count });
  const takes = distinctTakes(made);
  const writing = performance.now();
  for (const [index, take] of takes.entries()) {
    const rendering = await workshop.after(workshop.origin, type, params, take.result);
    await writePicture(takeName(out, index), await pictureOf(rendering), metadata);
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
export async function pictureOf({ source, patches }: Rendering): Promise<RasterImage> {
  const image = await source.crop(wholeOf(source.photo));
  composePatches(image, { x: 0, y: 0 }, patches);
  return image;
}

const takeName = (out: string, index: number): string =>
  index === 0 ? out : out.replace(/(\.[^.]+)$/, `.take-${index + 1}$1`);
