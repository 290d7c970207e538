import { wrap } from 'comlink';
import type { Size } from '../../core/image/rect.ts';
import type { ThingAtEdge } from '../../core/measures/thingsAtEdge.ts';
import type { Fixation } from '../../core/measures/gaze.ts';
import type { UprightProposal } from '../../core/planes/findUpright.ts';
import type { ReachOptions, ReachTarget } from '../../core/segment/colourReach.ts';
import type { SpherePlacement } from '../../core/sphere/placement.ts';
import type { SphereView } from '../../core/sphere/sphereView.ts';
import type { Pole } from '../../operations/sphere/gapAround.ts';
import type { PixelSource } from '../../engine/pictureSource.ts';
import type { PictureFormat } from '../../formats/browser/encodePicture.ts';
import type { EdgeWindow } from '../../operations/marks/edgeWindow.ts';
import type { Mark } from '../../operations/marks/markSchema.ts';
import type { MarkOutline } from '../../operations/marks/outlineMark.ts';
import type { Patch } from '../../operations/operation.ts';
import { unwrap } from '../../workers/answer.ts';
import type { Delivery, PictureApi } from '../../workers/picture.worker.ts';

/** A direct view into a sphere with something marked in it. */
export interface MarkInView {
  view: SphereView;
  mark: Mark;
}

/** A picture in its frame, and what was changed of it. */
export interface ShownPicture {
  source: PixelSource;
  patches: Patch[];
}

/** The original's pixels, and those of what it becomes in other frames, kept in a worker of their own. */
export interface PictureDesk {
  /** The original. */
  source: PixelSource;
  /** A square of the picture of this name at 1 / 2^level of its size. */
  tile(key: string, level: number, column: number, row: number): Promise<ImageBitmap>;
  outline(mark: Mark, photo: Size): Promise<MarkOutline>;
  areas(mark: Mark, photo: Size): Promise<Mark[]>;
  /** The direct view that suits a mark on a flat sphere of this size, and the mark in it. */
  viewOfMark(mark: Mark, sphere: Size): Promise<MarkInView>;
  /** The direct view of what is missing of a sphere around a pole, with that marked; undefined if nothing is. */
  gapView(picture: ShownPicture, pole: Pole): Promise<MarkInView | undefined>;
  /** What has a colour in a picture. */
  reach(picture: ShownPicture, target: ReachTarget, options: ReachOptions): Promise<Mark>;
  /** The ways along the picture's edges from a photo point, looked for at 1 / 2^level of its size. */
  edges(picture: ShownPicture, at: { x: number; y: number }, level: number): Promise<EdgeWindow>;
  /** The cast shadow of what is marked. */
  shadow(picture: ShownPicture, mark: Mark): Promise<Mark>;
  /** The reflection of what is marked. */
  reflection(picture: ShownPicture, mark: Mark): Promise<Mark>;
  /** The height of the horizon, px from the top, if the picture's lines tell it. */
  horizon(picture: ShownPicture): Promise<number | undefined>;
  /** What sets a picture straight, as far as its lines tell it. */
  upright(picture: ShownPicture): Promise<UprightProposal>;
  /** What touches the sides of a picture. */
  atEdge(picture: ShownPicture): Promise<ThingAtEdge[]>;
  /** Where the eye goes, the first place first. */
  fixations(picture: ShownPicture, most: number): Promise<Fixation[]>;
  encode(picture: ShownPicture, format: PictureFormat, delivery: Delivery): Promise<Blob>;
  thumbnail(picture: ShownPicture, longestPx: number): Promise<Blob>;
  /** The picture at a size for looking at: its longer side at least so many px, if it has them, and less than twice. */
  overview(picture: ShownPicture, longestPx: number): Promise<ImageBitmap>;
  close(): void;
}

/** Opens a file, laid onto its sphere if it is one. Throws what decoding throws. */
export async function openPicture(blob: Blob, name: string, placement?: SpherePlacement): Promise<PictureDesk> {
  const worker = new Worker(new URL('../../workers/picture.worker.ts', import.meta.url), { type: 'module' });
  const api = wrap<PictureApi>(worker);
  const sourceOf = (photo: Size, key: string): PixelSource => ({
    photo,
    key,
    crop: async (rect) => unwrap(await api.crop(key, rect)),
    look: async (patches) => unwrap(await api.look(key, patches)),
    async carried(carry, next) {
      unwrap(await api.carry(key, next, carry));
      return sourceOf(carry.size, next);
    },
    async seen(view, patches, next) {
      unwrap(await api.see(key, next, view, patches));
      return sourceOf({ width: view.width, height: view.height }, next);
    },
    laidBack: async (changes) => unwrap(await api.layBack(key, changes)),
  });
  try {
    const { width, height, key } = unwrap(await api.open(blob, name, placement));
    return {
      source: sourceOf({ width, height }, key),
      tile: (of, level, column, row) => api.tile(of, level, column, row),
      outline: async (mark, photo) => unwrap(await api.outline(mark, photo)),
      reach: async ({ source, patches }, target, options) =>
        unwrap(await api.reach(source.key, patches, target, options)),
      edges: async ({ source, patches }, at, level) => unwrap(await api.edges(source.key, patches, at, level)),
      shadow: async ({ source, patches }, mark) => unwrap(await api.shadow(source.key, patches, mark)),
      reflection: async ({ source, patches }, mark) => unwrap(await api.reflection(source.key, patches, mark)),
      horizon: async ({ source }) => unwrap(await api.horizon(source.key)),
      upright: async ({ source, patches }) => unwrap(await api.upright(source.key, patches)),
      fixations: async ({ source, patches }, most) => unwrap(await api.fixations(source.key, patches, most)),
      atEdge: async ({ source, patches }) => unwrap(await api.atEdge(source.key, patches)),
      areas: async (mark, photo) => unwrap(await api.areas(mark, photo)),
      viewOfMark: async (mark, sphere) => unwrap(await api.viewOfMark(mark, sphere)),
      gapView: async ({ source, patches }, pole) => unwrap(await api.gapView(source.key, patches, pole)),
      encode: async ({ source, patches }, format, delivery) =>
        unwrap(await api.encode(source.key, patches, format, delivery)),
      thumbnail: async ({ source, patches }, longestPx) => unwrap(await api.thumbnail(source.key, patches, longestPx)),
      overview: ({ source, patches }, longestPx) => api.overview(source.key, patches, longestPx),
      close: () => worker.terminate(),
    };
  } catch (error) {
    worker.terminate();
    throw error;
  }
}
