import { transfer } from 'comlink';
import { FingoError } from '../core/errors.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Rect } from '../core/image/rect.ts';
import type { Ghost } from '../core/panorama/findGhosts.ts';
import { findGaps, usualGrowPx } from '../core/panorama/findGaps.ts';
import { joinPhotos, type JoinOptions } from '../core/panorama/joinPhotos.ts';
import { partOfSphere, type Layout } from '../core/panorama/layOut.ts';
import type { SpherePlacement } from '../core/sphere/placement.ts';
import type { Progress } from '../core/progress.ts';
import { perform, type Watch } from '../engine/perform.ts';
import { coveredRect, type PanoramaPlan, type PanoramaSettings } from '../engine/panoramaPlan.ts';
import type { StitchReport } from '../engine/stitchReport.ts';
import { openStitcher, type Stitcher } from '../engine/stitcher.ts';
import { serve } from '../engine/workerLink.ts';
import { joinSchema, panoramaSettingsSchema, partSchema } from '../engine/stitchProtocol.ts';
import { decodePicture } from '../formats/browser/decodePicture.ts';
import { encodePicture } from '../formats/browser/encodePicture.ts';
import { LOSSLESS } from '../formats/formats.ts';
import { readFocalShare } from '../formats/focalShare.ts';
import { withFileMetadata } from '../formats/metadata/readWrite.ts';
import { withSphereTags } from '../formats/metadata/sphereTags.ts';
import { MAX_MEGAPIXELS } from '../formats/limits.ts';
import { openBrowserKernels } from '../kernels/browser/openBrowserKernels.ts';
import type { Mark } from '../operations/marks/markSchema.ts';
import { markFromMask } from '../operations/marks/renderMark.ts';
import { openVision } from '../vision/vision.ts';

const MAX_PX = MAX_MEGAPIXELS * 1e6;

export interface NamedBlob {
  name: string;
  blob: Blob;
}

/** A panorama as it is looked at. */
export interface PlanShown {
  layout: Layout;
  /** The whole of it, small: `overview` lies over `layout.bounds`. */
  overview: RasterImage;
  /** By px of the overview, the frame it is from (by the order in which they were given), 255 for none. */
  labels: Uint8Array<ArrayBuffer>;
  /** The largest part without a gap. */
  covered: Rect;
  /** Where things were cut or doubled, px of the projection; frames by the order in which they were given. */
  ghosts: Ghost[];
}

/** A finished picture, and what of it is vacant. */
export interface Finished {
  picture: Blob;
  gaps: Mark | undefined;
}

type Report = (progress: Progress) => void;

const kernels = openBrowserKernels();
kernels.useHelpers(true);
let stitcher: Stitcher | undefined;
let plan: PanoramaPlan | undefined;

let stopping = new AbortController();

function watching(onProgress: Report): Watch {
  stopping = new AbortController();
  return { signal: stopping.signal, onProgress };
}

async function finish(image: RasterImage, sphere?: SpherePlacement): Promise<Finished> {
  // Grown by the mark itself, so that it stays adjustable.
  const gaps = findGaps(image, 'none', 254, 0);
  const mark = gaps.data.includes(255) ? { ...markFromMask(gaps), growPx: usualGrowPx(image) } : undefined;
  const encoded = await encodePicture(image, LOSSLESS);
  if (!sphere) return { picture: encoded, gaps: mark };
  const bytes = new Uint8Array(await encoded.arrayBuffer());
  const told = withFileMetadata(bytes, { xmp: withSphereTags(undefined, sphere) });
  return { picture: new Blob([told], { type: encoded.type }), gaps: mark };
}

const noFrames = (): FingoError => new FingoError('not-found', 'There are no frames yet; add some that overlap.');

const api = {
  async open(frames: NamedBlob[], report: Report): Promise<StitchReport> {
    const files = await Promise.all(
      frames.map(async ({ name, blob }) => ({
        name,
        focalShare: await readFocalShare(blob),
        open: () => decodePicture(blob, name),
      })),
    );
    stitcher = await openStitcher(files, await openVision(), kernels, MAX_PX, watching(report));
    return stitcher.report;
  },

  async plan(settings: PanoramaSettings, report: Report): Promise<PlanShown> {
    if (!stitcher) throw noFrames();
    plan = await stitcher.plan(panoramaSettingsSchema.parse(settings), watching(report));
    const { layout, assignment, overview, given: places } = plan;
    const labels = assignment.labels.map((frame) => places[frame] ?? frame) as Uint8Array<ArrayBuffer>;
    const ghosts = plan.ghosts.map((ghost): Ghost => {
      const [a, b] = ghost.frames;
      return { ...ghost, frames: [places[a]!, places[b]!] };
    });
    const shown = { layout, overview, labels, ghosts, covered: coveredRect(plan) };
    return transfer(shown, [overview.data.buffer, labels.buffer]);
  },

  async render(part: Rect, report: Report): Promise<Finished> {
    const wanted = partSchema.parse(part);
    if (!stitcher || !plan) throw noFrames();
    if (wanted.width * wanted.height > MAX_PX) {
      throw new FingoError(
        'picture-too-large',
        `This crop has more than ${MAX_MEGAPIXELS} megapixels; make it smaller.`,
      );
    }
    const { layout } = plan;
    return finish(await stitcher.render(plan, wanted, watching(report)), partOfSphere(layout, wanted));
  },

  async join([first, second]: [NamedBlob, NamedBlob], options: JoinOptions, report: Report): Promise<Finished> {
    const [a, b] = [await decodePicture(first.blob, first.name), await decodePicture(second.blob, second.name)];
    return finish(await perform(joinPhotos(a, b, joinSchema.parse(options), kernels), watching(report)));
  },

  /** Stops what is under way; what was found before stays. */
  stop: (): void => stopping.abort(),
};

export type StitchApi = typeof api;
serve(api);
