import { createImage, type RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, isEmpty, type Rect } from '../image/rect.ts';
import type { Task } from '../progress.ts';
import { NO_FRAME } from './assignFrames.ts';
import { blendBands, type BlendLayer } from './blendBands.ts';
import type { Layout } from './layOut.ts';

/** A frame, or the part of it that counts, as it lies in the panorama. */
export interface Layer {
  frame: number;
  /** Where, px of the projection; in a closed layout it may reach beyond the ends. */
  rect: Rect;
  image: RasterImage;
}

/** Which frame each px is taken from, decided on a smaller panorama. */
export interface Assignment {
  layout: Layout;
  labels: Uint8Array;
}

const TILE_PX = 512;

/** How far the blending of that many bands reaches. */
export const reachOf = (levels: number): number => 3 * 2 ** levels;

/**
 * The panorama, or a part of it, put together from the frames that its px were assigned to, blended along the seams.
 * Tile by tile: memory beyond layers and result does not depend on the size.
 *
 * @param part what is wanted, px of the projection; what no frame covers comes out transparent
 * @param levels see blendBands
 */
export function* composePanorama(
  layers: readonly Layer[],
  assignment: Assignment,
  layout: Layout,
  part: Rect,
  levels: number,
): Task<RasterImage> {
  const out = createImage(part.width, part.height);
  const reach = reachOf(levels);
  for (let y = 0; y < part.height; y += TILE_PX) {
    for (let x = 0; x < part.width; x += TILE_PX) {
      const inner = intersect({ x, y, width: TILE_PX, height: TILE_PX }, { ...part, x: 0, y: 0 });
      const tile: Rect = {
        x: part.x + inner.x - reach,
        y: part.y + inner.y - reach,
        width: inner.width + 2 * reach,
        height: inner.height + 2 * reach,
      };
      composeTile(out, inner, tile, layers, assignment, layout, levels);
    }
    yield { stage: 'Blending along the seams', share: y / part.height };
  }
  return out;
}

function composeTile(
  out: RasterImage,
  inner: Rect,
  tile: Rect,
  layers: readonly Layer[],
  assignment: Assignment,
  layout: Layout,
  levels: number,
): void {
  const turn = layout.closed ? layout.bounds.width : 0;
  const parts = layers.flatMap((layer, at) => {
    // A closed panorama shows the same again after a whole turn.
    return (turn ? [-turn, 0, turn] : [0]).flatMap((shift) => {
      const rect = { ...layer.rect, x: layer.rect.x + shift };
      return isEmpty(intersect(rect, tile)) ? [] : [{ at, frame: layer.frame, rect, image: layer.image }];
    });
  });
  if (parts.length === 0) return;
  const count = tile.width * tile.height;
  const data = new Uint8ClampedArray(4 * count);
  const chosen = choose(parts, tile, assignment, layout, data);
  const seams = seamBox(chosen, tile);
  if (!isEmpty(seams)) blendAround(intersect(inflate(seams, reachOf(levels)), tile), parts, chosen, tile, data, levels);
  const reach = (tile.width - inner.width) / 2;
  for (let row = 0; row < inner.height; row++) {
    const from = 4 * ((row + reach) * tile.width + reach);
    out.data.set(data.subarray(from, from + 4 * inner.width), 4 * ((inner.y + row) * out.width + inner.x));
  }
}

/** The box around all seams of a tile, px of the projection; empty where there is none. */
function seamBox(chosen: Uint8Array, { x, y, width, height }: Rect): Rect {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let row = 1; row < height; row++) {
    for (let column = 1, i = row * width + 1; column < width; column++, i++) {
      const own = chosen[i]!;
      if (own === NO_FRAME) continue;
      const [before, above] = [chosen[i - 1]!, chosen[i - width]!];
      if ((before === own || before === NO_FRAME) && (above === own || above === NO_FRAME)) continue;
      left = Math.min(left, column);
      right = Math.max(right, column);
      top = Math.min(top, row);
      bottom = Math.max(bottom, row);
    }
  }
  return { x: x + left, y: y + top, width: Math.max(0, right - left + 1), height: Math.max(0, bottom - top + 1) };
}

/** Blends a box of a tile's hard picture, in place. */
function blendAround(
  box: Rect,
  parts: readonly Part[],
  chosen: Uint8Array,
  tile: Rect,
  data: Uint8ClampedArray,
  levels: number,
): void {
  const count = box.width * box.height;
  const within = new Uint8Array(count);
  const pixels = new Uint8ClampedArray(4 * count);
  const start = (row: number): number => (box.y - tile.y + row) * tile.width + box.x - tile.x;
  for (let row = 0; row < box.height; row++) {
    within.set(chosen.subarray(start(row), start(row) + box.width), row * box.width);
    pixels.set(data.subarray(4 * start(row), 4 * (start(row) + box.width)), 4 * row * box.width);
  }
  const hard = planesOf(pixels);
  const present = [...new Set(parts.map(({ at }) => at))].filter((at) => within.includes(at));
  const blended = present.map((at): BlendLayer => {
    const own = new Uint8ClampedArray(4 * count);
    for (const part of parts) if (part.at === at) copyPart(own, box, part.rect, part.image);
    const covered = new Uint8Array(count);
    const isChosen = new Float32Array(count);
    for (let i = 0; i < count; i++) {
      if (own[4 * i + 3] === 255 && within[i] !== NO_FRAME) covered[i] = 1;
      if (within[i] === at) isChosen[i] = 1;
    }
    return { planes: planesOf(own), covered, chosen: isChosen };
  });
  blendBands(blended, hard, box, levels).forEach((added, c) => {
    const plane = hard[c]!;
    for (let row = 0, i = 0; row < box.height; row++) {
      for (let k = 4 * start(row) + c, end = k + 4 * box.width; k < end; k += 4, i++) data[k] = plane[i]! + added[i]!;
    }
  });
}

interface Part {
  /** Index of the layer. */
  at: number;
  frame: number;
  rect: Rect;
  image: RasterImage;
}

function copyPart(to: Uint8ClampedArray, tile: Rect, rect: Rect, image: RasterImage): void {
  const common = intersect(rect, tile);
  for (let row = common.y; row < common.y + common.height; row++) {
    const from = 4 * ((row - rect.y) * image.width + common.x - rect.x);
    to.set(image.data.subarray(from, from + 4 * common.width), 4 * ((row - tile.y) * tile.width + common.x - tile.x));
  }
}

function planesOf(data: Uint8ClampedArray): BlendLayer['planes'] {
  const planes = [0, 1, 2].map(() => new Float32Array(data.length / 4));
  planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) plane[i] = data[4 * i + c]!;
  });
  return planes as unknown as BlendLayer['planes'];
}

/** Writes the hard picture of a tile, and returns which layer each px of it comes from, NO_FRAME for none. */
function choose(
  parts: readonly Part[],
  tile: Rect,
  { layout: small, labels }: Assignment,
  { projection, closed }: Layout,
  data: Uint8ClampedArray,
): Uint8Array {
  const chosen = new Uint8Array(tile.width * tile.height).fill(NO_FRAME);
  const scale = small.projection.scale / projection.scale;
  const { width, height } = small.bounds;
  const votes = new Float32Array(NO_FRAME + 1);
  const asked = new Uint8Array(4);
  for (let row = 0, i = 0; row < tile.height; row++) {
    const y = tile.y + row;
    const v = Math.max(0, Math.min(height - 1, (y + 0.5) * scale - small.bounds.y - 0.5));
    const v0 = Math.min(height - 1, Math.floor(v));
    const v1 = Math.min(height - 1, v0 + 1);
    for (let column = 0; column < tile.width; column++, i++) {
      const x = tile.x + column;
      let u = (x + 0.5) * scale - small.bounds.x - 0.5;
      if (closed) u -= width * Math.floor(u / width);
      u = closed ? u : Math.max(0, Math.min(width - 1, u));
      const u0 = Math.min(width - 1, Math.floor(u));
      const u1 = closed ? (u0 + 1) % width : Math.min(width - 1, u0 + 1);
      asked[0] = labels[v0 * width + u0]!;
      asked[1] = labels[v0 * width + u1]!;
      asked[2] = labels[v1 * width + u0]!;
      asked[3] = labels[v1 * width + u1]!;
      let frame = asked[0]!;
      if (asked[1] !== frame || asked[2] !== frame || asked[3] !== frame) {
        const [fx, fy] = [u - u0, v - v0];
        for (const label of asked) votes[label] = 0;
        votes[asked[0]!]! += (1 - fx) * (1 - fy);
        votes[asked[1]!]! += fx * (1 - fy);
        votes[asked[2]!]! += (1 - fx) * fy;
        votes[asked[3]!]! += fx * fy;
        for (const label of asked) if (votes[label]! > votes[frame]!) frame = label;
      }
      const part = shownBy(parts, frame, x, y);
      if (!part) continue;
      chosen[i] = part.at;
      const from = 4 * ((y - part.rect.y) * part.rect.width + x - part.rect.x);
      const pixels = part.image.data;
      data[4 * i] = pixels[from]!;
      data[4 * i + 1] = pixels[from + 1]!;
      data[4 * i + 2] = pixels[from + 2]!;
      data[4 * i + 3] = 255;
    }
  }
  return chosen;
}

/**
 * The part that shows a px: of the frame that was asked for, or, as it may end a px earlier than it did on the smaller
 * panorama, of any other.
 */
function shownBy(parts: readonly Part[], frame: number, x: number, y: number): Part | undefined {
  let found: Part | undefined;
  for (let k = 0; k < parts.length; k++) {
    const part = parts[k]!;
    if (found && part.frame !== frame) continue;
    const u = x - part.rect.x;
    const v = y - part.rect.y;
    if (u < 0 || v < 0 || u >= part.rect.width || v >= part.rect.height) continue;
    if (part.image.data[4 * (v * part.rect.width + u) + 3] !== 255) continue;
    if (part.frame === frame) return part;
    found = part;
  }
  return found;
}
