import { transfer } from 'comlink';
import { halveImage } from '../core/image/halve.ts';
import type { Quad } from '../core/geometry/insetQuad.ts';
import { plateOf, type PlateRim } from '../core/geometry/plate.ts';
import { resampleImage } from '../core/geometry/resampleImage.ts';
import { scaling } from '../core/geometry/warp.ts';
import type { Task } from '../core/progress.ts';
import { lookAround, pixelsOf } from '../core/sphere/lookAround.ts';
import { placedOnSphere, wholeSphere, type SpherePlacement } from '../core/sphere/placement.ts';
import { planetToSphere, type SphereView } from '../core/sphere/sphereView.ts';
import { readFileMetadata, withFileMetadata } from '../formats/metadata/readWrite.ts';
import type { FileMetadata } from '../formats/metadata/fileMetadata.ts';
import { withSphereTags } from '../formats/metadata/sphereTags.ts';
import { gapAround, type Pole } from '../operations/sphere/gapAround.ts';
import { viewOfMark } from '../operations/sphere/markInView.ts';
import { cropImage, type RasterImage } from '../core/image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect, type Size } from '../core/image/rect.ts';
import { findFixations, type Fixation } from '../core/measures/gaze.ts';
import { EDGE_SIDES, thingsAtEdge, type ThingAtEdge } from '../core/measures/thingsAtEdge.ts';
import { findHorizon } from '../core/planes/findHorizon.ts';
import { findUpright, type UprightProposal } from '../core/planes/findUpright.ts';
import { reachOfColour, type ReachOptions, type ReachTarget } from '../core/segment/colourReach.ts';
import { findEdgeWays } from '../core/segment/edgeWays.ts';
import type { Mask } from '../core/mask/mask.ts';
import { findReflection } from '../core/segment/findReflection.ts';
import { findShadow } from '../core/segment/findShadow.ts';
import { FingoError } from '../core/errors.ts';
import { openBrowserKernels } from '../kernels/browser/openBrowserKernels.ts';
import { carryPicture, composed, type Carry } from '../operations/carryPicture.ts';
import { composePatches } from '../operations/composePatches.ts';
import type { EdgeWindow } from '../operations/marks/edgeWindow.ts';
import { perform } from '../engine/perform.ts';
import { lookAt } from '../engine/pictureSource.ts';
import { hexDigest } from '../operations/contentHash.ts';
import { serve } from '../engine/workerLink.ts';
import { decodePicture } from '../formats/browser/decodePicture.ts';
import { encodePicture } from '../formats/browser/encodePicture.ts';
import { WRITABLE, type WritableFormat } from '../formats/formats.ts';
import { markSchema, type Mark } from '../operations/marks/markSchema.ts';
import { areasOfMark } from '../operations/marks/areasOfMark.ts';
import { markFromMask, maskUnder, renderMark } from '../operations/marks/renderMark.ts';
import { outlineMark, type MarkOutline } from '../operations/marks/outlineMark.ts';
import type { Patch } from '../operations/computation.ts';
import { noView, requireSphere } from '../operations/sphere/requireSphere.ts';
import { layOnSphere, seeSphere } from '../operations/sphere/seeSphere.ts';

export const TILE_PX = 512;

/** A direct view into a sphere with something marked in it. */
export interface MarkInView {
  view: SphereView;
  mark: Mark;
}

/** A picture kept here, by its name, and what was changed of it. */
export interface ShownPicture {
  source: { key: string };
  patches: Patch[];
}

/** A picture kept here: the original, or what it becomes in another frame or a direct view, made when asked for. */
interface KeptPicture {
  /** Those between the original and this one. */
  carries: readonly Carry[];
  /** The sphere that it is a direct view of, with patches over it. */
  seen?: { of: string; view: SphereView; patches: Patch[] };
  /** Makes its pixels; the original's are there. */
  make?: () => Promise<RasterImage>;
  /** Full size first, each further one half as large. */
  levels?: Promise<RasterImage[]> | undefined;
}

/** The only place that holds the pixels of the original and of what it becomes in other frames. */
const pictures = new Map<string, KeptPicture>();
/** Of so many pictures in other frames the pixels are kept; those of others are made again. */
const MAX_CARRIED = 3;
/** What the file told beside its pixels. */
let told: FileMetadata = {};
const kernels = openBrowserKernels();
kernels.useHelpers(true);

/** In which format a picture is written, by its media type; `quality` 0..1. */
export interface EncodeAs {
  mediaType: string;
  quality?: number;
}

/** What becomes of a picture on its way into a file. */
export interface Delivery {
  /** Only the margins around the photo, which lies there. */
  plate?: { photo: Quad; rim: PlateRim; rimPx: number } | undefined;
  /** Another size; the picture's own if not given. */
  size?: Size | undefined;
  /** What to make of a sphere. */
  sphere?: SphereDelivery | undefined;
}

/** A sphere as it is, told to be one; a small planet, `yaw` up in it; a direct view. */
export type SphereDelivery =
  | { kind: 'sphere'; levelled: boolean }
  | { kind: 'planet'; yaw: number; sidePx: number }
  | { kind: 'view'; view: SphereView };

/** The horizon of a small planet lies so far out. */
const PLANET_HORIZON = 0.55;

async function levelsOf(key: string): Promise<RasterImage[]> {
  const kept = pictures.get(key);
  if (!kept) throw new FingoError('not-found', 'No picture is open; open one from Projects.');
  const { make } = kept;
  if (make) {
    // The one used last comes last; the pixels of those used longest ago are let go.
    pictures.delete(key);
    pictures.set(key, kept);
    kept.levels ??= make().then(halvingsOf);
    const held = [...pictures.values()].filter((each) => each.make !== undefined && each.levels !== undefined);
    for (const old of held.slice(0, -MAX_CARRIED)) old.levels = undefined;
  }
  return kept.levels!;
}

/** The kernels do one thing at a time. */
let busy: Promise<unknown> = Promise.resolve();
function whenFree<T>(work: () => T | Promise<T>): Promise<T> {
  const made = busy.then(work);
  busy = made.catch(() => undefined);
  return made;
}
const inTurn = <T>(task: () => Task<T>): Promise<T> => whenFree(() => perform(task()));

async function carriedImage(carries: readonly Carry[]): Promise<RasterImage> {
  const [original] = await [...pictures.values()].find(({ make }) => !make)!.levels!;
  return inTurn(() => carryPicture(original!, carries, kernels));
}

function halvingsOf(image: RasterImage): RasterImage[] {
  const levels = [image];
  for (let last = image; Math.max(last.width, last.height) > TILE_PX;) levels.push((last = halveImage(last)));
  return levels;
}

const fullSize = async (key: string): Promise<RasterImage> => (await levelsOf(key))[0]!;

/** Ways along edges lead so many px of the reduced picture far. */
const EDGE_REACH = 256;

const composedPicture = async ({ source, patches }: ShownPicture): Promise<RasterImage> =>
  composed(await fullSize(source.key), patches);

function writableFormat(mediaType: string): WritableFormat {
  const format = WRITABLE.find((each) => each.mediaType === mediaType);
  if (!format) throw new FingoError('bad-arguments', `Nothing is written as "${mediaType}"; choose another format.`);
  return format;
}

/** Small files count more than exact ones. */
const THUMBNAIL_FORMAT = WRITABLE.find(({ writer }) => writer.isLossy)!;

/** Everything that can be asked about the photo and what it becomes in other frames. */
const api = {
  /** Decodes a file, lays its picture onto its sphere if it is one, and keeps the pixels. */
  async open(blob: Blob, name: string, placement?: SpherePlacement): Promise<Size & { key: string }> {
    const decoded = await decodePicture(blob, name);
    const image = placement ? placedOnSphere(decoded, placement) : decoded;
    const bytes = await blob.arrayBuffer();
    const digest = await hexDigest(bytes);
    const key = image === decoded ? digest : `${digest} on its sphere`;
    told = readFileMetadata(new Uint8Array(bytes));
    pictures.set(key, { carries: [], levels: Promise.resolve(halvingsOf(image)) });
    return { width: image.width, height: image.height, key };
  },
  /** Names what a picture becomes when it is carried over. */
  carry(from: string, key: string, carry: Carry): void {
    if (pictures.has(key)) return;
    const carries = [...(pictures.get(from)?.carries ?? []), carry];
    pictures.set(key, { carries, make: () => carriedImage(carries) });
  },
  /** Names what a direct view shows of a sphere with patches over it. */
  async see(from: string, key: string, view: SphereView, patches: Patch[]): Promise<void> {
    if (pictures.has(key)) return;
    const sphere = await fullSize(from);
    requireSphere(sphere);
    const make = async (): Promise<RasterImage> => {
      const image = await fullSize(from);
      return inTurn(() => seeSphere(image, view, patches, kernels));
    };
    pictures.set(key, { carries: [], seen: { of: from, view, patches }, make });
  },
  /** The direct view that suits a mark on a flat sphere of this size, and the mark in it. */
  viewOfMark: (mark: Mark, sphere: Size): MarkInView => viewOfMark(markSchema.parse(mark), sphere),
  /** The direct view of what is missing of a sphere around a pole, with that marked; undefined if nothing is. */
  async gapView(picture: ShownPicture, pole: Pole): Promise<MarkInView | undefined> {
    const sphere = await composedPicture(picture);
    return inTurn(() => gapAround(sphere, pole, kernels));
  },
  /** Patches over the sphere of a direct view that show what changes made of it. */
  async layBack(key: string, changes: Patch[]): Promise<Patch[]> {
    const through = pictures.get(key)?.seen;
    if (!through) throw noView();
    const [sphere, seen] = await Promise.all([fullSize(through.of), fullSize(key)]);
    return inTurn(() => layOnSphere(sphere, through.view, through.patches, seen, changes, kernels));
  },
  async crop(key: string, rect: Rect): Promise<RasterImage> {
    const cut = cropImage(await fullSize(key), rect);
    return transfer(cut, [cut.data.buffer]);
  },
  /** A square of the picture of this name at 1 / 2^level of its size. */
  async tile(key: string, level: number, column: number, row: number): Promise<ImageBitmap> {
    const from = (await levelsOf(key))[level]!;
    const x = column * TILE_PX;
    const y = row * TILE_PX;
    const rect = { x, y, width: Math.min(TILE_PX, from.width - x), height: Math.min(TILE_PX, from.height - y) };
    return bitmapOf(cropImage(from, rect));
  },
  outline: (mark: Mark, photo: Size): MarkOutline => outlineMark(markSchema.parse(mark), photo),
  /** The separate areas of a mark, each a mark of its own. */
  areas: (mark: Mark, photo: Size): Mark[] => areasOfMark(markSchema.parse(mark), photo),
  /** What has a colour, as a mark. */
  reach: async (picture: ShownPicture, target: ReachTarget, options: ReachOptions): Promise<Mark> =>
    markFromMask(reachOfColour(await composedPicture(picture), target, options)),
  /** The ways along edges from a point, or the nearest in the picture, looked for at 1 / 2^level of its size. */
  async edges({ source, patches }: ShownPicture, from: { x: number; y: number }, level: number): Promise<EdgeWindow> {
    const picture = await fullSize(source.key);
    const step = 2 ** level;
    const x = Math.max(0, Math.min(picture.width - 1, Math.floor(from.x)));
    const y = Math.max(0, Math.min(picture.height - 1, Math.floor(from.y)));
    const rect = intersect(inflate({ x, y, width: 1, height: 1 }, EDGE_REACH * step), wholeOf(picture));
    let image = cropImage(picture, rect);
    composePatches(image, rect, patches);
    for (let k = 0; k < level; k++) image = halveImage(image);
    const ways = findEdgeWays(image, Math.floor((x - rect.x) / step), Math.floor((y - rect.y) / step));
    return { ways, x: rect.x, y: rect.y, step };
  },
  /** The cast shadow of what is marked, as a mark. */
  async shadow(shown: ShownPicture, mark: Mark): Promise<Mark> {
    const { picture, subject } = await marked(shown, mark);
    return whenFree(() => markFromMask(findShadow(picture, subject, kernels)));
  },
  /** The reflection of what is marked. */
  async reflection(shown: ShownPicture, mark: Mark): Promise<Mark> {
    const { picture, subject } = await marked(shown, mark);
    return markFromMask(findReflection(picture, subject));
  },
  /** The height of the horizon, px from the top, where the picture's lines tell it. */
  horizon: async ({ source }: ShownPicture): Promise<number | undefined> => findHorizon(await fullSize(source.key)),
  /** What sets a picture straight, as far as its lines tell it. */
  upright: async (picture: ShownPicture): Promise<UprightProposal> => findUpright(await composedPicture(picture)),
  /** The whole picture as a file. */
  async encode(shown: ShownPicture, as: EncodeAs, { plate, size, sphere }: Delivery): Promise<Blob> {
    let image = await composedPicture(shown);
    if (sphere?.kind === 'planet') image = await planetOf(image, sphere.yaw, sphere.sidePx);
    if (sphere?.kind === 'view') image = await viewOf(image, sphere.view);
    if (plate) image = plateOf(image, plate.photo, plate.rim, plate.rimPx);
    if (size) image = await scaledTo(image, size);
    const file = await encodePicture(image, writableFormat(as.mediaType), as.quality);
    if (sphere?.kind !== 'sphere') return file;
    const metadata = { ...told, xmp: withSphereTags(told.xmp, wholeSphere(image), sphere.levelled) };
    return new Blob([withFileMetadata(new Uint8Array(await file.arrayBuffer()), metadata)], { type: file.type });
  },
  /** A small JPEG, for the list of projects. */
  thumbnail: async (picture: ShownPicture, longestPx: number): Promise<Blob> =>
    encodePicture(halved(await composedPicture(picture), longestPx), THUMBNAIL_FORMAT, 0.85),
  /** The picture reduced for what is found by looking at all of it. */
  look: async (picture: ShownPicture): Promise<RasterImage> => lookAt(await composedPicture(picture)),
  /** What touches the sides of the picture. */
  async atEdge(shown: ShownPicture): Promise<ThingAtEdge[]> {
    const picture = await composedPicture(shown);
    return EDGE_SIDES.flatMap((side) => thingsAtEdge(picture, side).map((rect) => ({ side, rect })));
  },
  /** Where the eye goes, the first place first. */
  fixations: async (picture: ShownPicture, most: number): Promise<Fixation[]> =>
    findFixations(await composedPicture(picture), most),
  /** The picture at a size for looking at: its longer side at least so many px, if it has them, and less than twice. */
  overview: async (picture: ShownPicture, longestPx: number): Promise<ImageBitmap> =>
    bitmapOf(halved(await composedPicture(picture), longestPx)),
};

async function bitmapOf({ data, width, height }: RasterImage): Promise<ImageBitmap> {
  const bitmap = await createImageBitmap(new ImageData(data, width, height));
  return transfer(bitmap, [bitmap]);
}

async function marked(shown: ShownPicture, mark: Mark): Promise<{ picture: RasterImage; subject: Mask }> {
  const picture = await composedPicture(shown);
  return { picture, subject: maskUnder(renderMark(markSchema.parse(mark), picture), wholeOf(picture)) };
}

const viewOf = (sphere: RasterImage, view: SphereView): Promise<RasterImage> =>
  inTurn(() => seeSphere(sphere, view, [], kernels));

const planetOf = (sphere: RasterImage, yaw: number, sidePx: number): Promise<RasterImage> => {
  const size = { width: sidePx, height: sidePx };
  return inTurn(() => lookAround(pixelsOf(sphere), planetToSphere(size, yaw, PLANET_HORIZON, sphere), size, kernels));
};

const scaledTo = (image: RasterImage, size: Size): Promise<RasterImage> =>
  inTurn(() => resampleImage(image, [scaling(image, size)], size, kernels));

/** Halved until its longer side is under twice so many px. */
function halved(image: RasterImage, longestPx: number): RasterImage {
  let out = image;
  while (Math.max(out.width, out.height) >= 2 * longestPx) out = halveImage(out);
  return out;
}

export type PictureApi = typeof api;
serve(api);
