import type { RasterImage } from '../image/rasterImage.ts';
import type { Point } from '../geometry/homography.ts';

/** Shares of red and blue in the sum of the channels: the same in light and in shadow. */
export type Hue = readonly [red: number, blue: number];

/** A small square of a picture, with its middle in px. */
export interface Square extends Point {
  hue: Hue;
}

/** The hue of a square, with how high it lies across an edge, and how far along it. */
export interface PlacedHue {
  height: number;
  along: number;
  hue: Hue;
}

/** Height, in work px, of the strips whose hues are compared on both sides of an edge. */
const STRIP_PX = 40;
const STEP_PX = 5;
/** Fewer squares in a strip tell nothing. */
const FEWEST = 40;
/** Two materials differ at least so much in hue, */
const MIN_CONTRAST = 0.03;
/** and nowhere else on the way do hues change more than this share of it. */
const LARGEST_RIVAL = 0.8;
/** Across the edge, in strips that hold as many squares each, those that show it best count: */
const STRIPS = 6;
const CLEAR_STRIPS = 4;
/** so much of what lies around the edge there has the hue of its side. */
const MIN_PURITY = 0.83;

/** The hue of the square of a picture, `side` px wide, around a point: from 16 samples. */
export function hueAround({ width, height, data }: RasterImage, { x, y }: Point, side: number): Hue {
  const sum: [number, number, number] = [0, 0, 0];
  for (let k = 0; k < 16; k++) {
    const px = Math.max(0, Math.min(width - 1, Math.floor(x + ((k & 3) / 4 - 0.4) * side)));
    const py = Math.max(0, Math.min(height - 1, Math.floor(y + ((k >> 2) / 4 - 0.4) * side)));
    for (const c of [0, 1, 2] as const) sum[c] += data[4 * (py * width + px) + c]! / 16;
  }
  const all = sum[0] + sum[1] + sum[2] + 1;
  return [sum[0] / all, sum[2] / all];
}

/** The median hue of some, channel by channel. */
export function medianHue(hues: readonly Hue[]): Hue {
  const values = new Float64Array(hues.length);
  const median = (c: 0 | 1): number => {
    for (let k = 0; k < hues.length; k++) values[k] = hues[k]![c];
    return values.sort()[hues.length >> 1]!;
  };
  return [median(0), median(1)];
}

/** How far apart the median hues of the strips just below and above each height are (smaller heights are below). */
export function hueContrasts(squares: readonly PlacedHue[]): { height: number; contrast: number }[] {
  const sorted = [...squares].sort((p, q) => p.height - q.height);
  const medianBetween = (from: number, to: number): Hue | undefined => {
    const inside = sorted.slice(firstFrom(sorted, from), firstFrom(sorted, to));
    return inside.length < FEWEST ? undefined : medianHue(inside.map(({ hue }) => hue));
  };
  const out: { height: number; contrast: number }[] = [];
  if (sorted.length === 0) return out;
  const last = sorted.at(-1)!.height;
  for (let height = sorted[0]!.height + STRIP_PX; height <= last - STRIP_PX; height += STEP_PX) {
    const below = medianBetween(height - STRIP_PX, height);
    const above = medianBetween(height, height + STRIP_PX);
    if (below && above) out.push({ height, contrast: Math.hypot(below[0] - above[0], below[1] - above[1]) });
  }
  return out;
}

/**
 * The height at which one material ends and another begins, told by their hues alone: where those of the strips on both
 * sides differ most, if they clearly do and nothing else within the heights looked at changes nearly as much. Undefined
 * otherwise.
 */
export function materialEdge(
  squares: readonly PlacedHue[],
  [lowest, highest]: readonly [number, number],
): number | undefined {
  const contrasts = hueContrasts(squares).filter(({ height }) => height >= lowest && height <= highest);
  const most = Math.max(0, ...contrasts.map(({ contrast }) => contrast));
  if (most < MIN_CONTRAST) return undefined;
  // Around the edge itself contrast rises and falls over the height of a strip.
  const peak = contrasts.filter(({ contrast }) => contrast > 0.9 * most);
  const height = peak.reduce((sum, at) => sum + at.height, 0) / peak.length;
  const isAlone = contrasts.every(
    (at) => Math.abs(at.height - height) <= 1.5 * STRIP_PX || at.contrast <= LARGEST_RIVAL * most,
  );
  return isAlone ? partingHeight(squares, height) : undefined;
}

/**
 * Near a height, the one that leaves the fewest squares on the side whose hue they have not, told where things standing
 * before the edge don't hide it; undefined where even then too many are left: what has both hues on both sides makes no
 * edge.
 */
function partingHeight(squares: readonly PlacedHue[], about: number): number | undefined {
  const near = squares
    .filter(({ height }) => Math.abs(height - about) <= 2 * STRIP_PX)
    .sort((p, q) => p.along - q.along);
  const huesWhere = (isIn: (height: number) => boolean): Hue[] =>
    near.filter(({ height }) => isIn(height)).map(({ hue }) => hue);
  // What lies a little off the edge surely is the one or the other.
  const below = medianHue(huesWhere((height) => height < about - STRIP_PX / 2));
  const above = medianHue(huesWhere((height) => height > about + STRIP_PX / 2));
  const distance = (a: Hue, b: Hue): number => Math.hypot(a[0] - b[0], a[1] - b[1]);
  const strips = Array.from({ length: STRIPS }, (_, k) =>
    near.slice((k * near.length) / STRIPS, ((k + 1) * near.length) / STRIPS).map(({ height, hue }) => ({
      height,
      isLikeBelow: distance(hue, below) < distance(hue, above),
    })),
  );
  const purityAt = (at: number): number => {
    const shares = strips.map((strip) => {
      let pure = 0;
      for (const { height, isLikeBelow } of strip) if (height < at === isLikeBelow) pure++;
      return pure / strip.length;
    });
    const clear = shares.sort((p, q) => q - p).slice(0, CLEAR_STRIPS);
    return clear.reduce((sum, share) => sum + share, 0) / CLEAR_STRIPS;
  };
  const heights = Array.from({ length: 2 * STRIP_PX + 1 }, (_, k) => about + 2 * (k - STRIP_PX));
  const [at, purity] = heights
    .map((height) => [height, purityAt(height)] as const)
    .reduce((best, here) => (here[1] > best[1] ? here : best));
  return purity >= MIN_PURITY ? at : undefined;
}

/** The index of the first that is not below a height; `sorted` runs upwards. */
function firstFrom(sorted: readonly { height: number }[], height: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]!.height < height) low = middle + 1;
    else high = middle;
  }
  return low;
}
