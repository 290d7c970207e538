import { blurPlane } from '../image/boxBlur.ts';
import { LINEAR_FROM_BYTE } from '../image/linearLight.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Mask } from '../mask/mask.ts';
import { floatsBy } from '../numeric/filled.ts';

/** Darkening smaller than this is taken for texture and noise, not for a shadow. */
const FAINTEST_SHADOW = 0.9;
/** From here on it is all a shadow's. */
const CERTAIN_SHADOW = 0.6;
const DEEPEST_SHADOW = 0.03;

/** A ratio without what is too faint to be a shadow; deep ones stay as they are. */
function surely(ratio: number): number {
  if (ratio >= FAINTEST_SHADOW) return 1;
  return ratio <= CERTAIN_SHADOW
    ? ratio
    : CERTAIN_SHADOW + ((ratio - CERTAIN_SHADOW) * (1 - CERTAIN_SHADOW)) / (FAINTEST_SHADOW - CERTAIN_SHADOW);
}

/**
 * How much darker the ground around a subject is than the same ground without it, as interleaved R, G, B ratios of
 * linear light in (0, 1], 1 = no shadow: the photo divided by `cleared` (the same region with the subject taken out),
 * both smoothed over `radiusPx` so that the two textures need not agree; where a shadow ends, the photo itself tells how
 * sharply. By channel, because a shadow out of doors is lit by the sky and bluer than its surroundings; what dims one
 * channel alone is a thing of another colour, and no shadow. Measured in the slack only (marked, but outside the matte).
 * A shadow carried as a ratio lets the new ground's texture show through it.
 */
export function shadowRatio(
  image: RasterImage,
  cleared: RasterImage,
  mark: Mask,
  matte: Mask,
  radiusPx: number,
): Float32Array<ArrayBuffer> {
  requireSameSize(image, cleared, 'The cleared picture');
  const { width, height } = image;
  const ground = floatsBy(matte.data.length, (i) => (matte.data[i]! > 8 ? 0 : 1));
  const channels = [0, 1, 2].map((c) => measureChannel(image, cleared, ground, c, radiusPx));
  // Green is nearest to luma, and the least noisy.
  const edges = edgesOf(channels[1]!, ground, mark);
  const ratio = new Float32Array(3 * width * height).fill(1);
  for (let i = 0; i < width * height; i++) {
    if (mark.data[i] === 0) continue;
    const sureness = (mark.data[i]! / 255) * evenness(channels, i);
    if (sureness === 0) continue;
    const share = edges[i]!;
    const leftOf = ({ smooth, core }: Channel): number =>
      Number.isNaN(share) ? withoutLeak(smooth[i]!, core[i]!) : 1 - share * (1 - core[i]!);
    const least = leastBeside(leftOf(channels[0]!));
    channels.forEach((channel, c) => {
      const light = Math.max(leftOf(channel), least);
      ratio[3 * i + c] = 1 - sureness * (1 - Math.max(DEEPEST_SHADOW, surely(light)));
    });
  }
  return ratio;
}

/**
 * Of green and blue light a light shadow leaves at least so much as of red: what is redder is other ground. One that leaves
 * little of red tells its own tint.
 */
const REDDEST = 0.95;
const DEEP = 0.25;
const LIGHT = 0.5;

/** The least of green or blue light that a shadow leaves, by what it leaves of red. */
const leastBeside = (red: number): number => REDDEST * red * Math.max(0, Math.min(1, (red - DEEP) / (LIGHT - DEEP)));

interface Channel {
  /** Linear light of the ground, 0 on the subject, and what it would be without the shadow. */
  before: Float32Array;
  without: Float32Array;
  /** Their ratio over a neighbourhood; not a number where there is no ground. */
  smooth: Float32Array;
  /** The darkest of that near by: how deep the shadow is away from its edges. */
  core: Float32Array;
}

/** `ground` is 1 where the ground is seen, 0 on the subject. */
function measureChannel(
  image: RasterImage,
  cleared: RasterImage,
  ground: Float32Array<ArrayBuffer>,
  c: number,
  radiusPx: number,
): Channel {
  const { width, height } = image;
  const n = width * height;
  const before = new Float32Array(n);
  const after = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    if (!ground[i]) continue;
    before[i] = LINEAR_FROM_BYTE[image.data[4 * i + c]!]!;
    after[i] = LINEAR_FROM_BYTE[cleared.data[4 * i + c]!]!;
  }
  const blur = (plane: Float32Array<ArrayBuffer>, by: number) => blurPlane(plane, width, height, by, 2);
  const smoothBefore = blur(before, radiusPx);
  const without = blur(after, radiusPx);
  const seen = blur(ground, radiusPx);
  const smooth = smoothBefore.map((value, i) => (without[i]! < 1e-4 ? NaN : value / without[i]!));
  const weights = smooth.map((value) => (Number.isNaN(value) ? 0 : Math.exp(-DARKEST_FIRST * value)));
  const weighed = blur(
    weights.map((weight, i) => (weight === 0 ? 0 : weight * smooth[i]!)),
    CORE_REACH * radiusPx,
  );
  const core = blur(weights, CORE_REACH * radiusPx).map((weight, i) =>
    Math.max(DEEPEST_SHADOW, weighed[i]! / Math.max(1e-12, weight)),
  );
  return { before, without: without.map((value, i) => value / Math.max(1e-6, seen[i]!)), smooth, core };
}

/** A shadow dims the channel that it dims least (logarithm) by so much of what it dims all on average; less is no shadow. */
const EVEN = 0.5;
const UNEVEN = 0.25;

/** How sure it is that light is missing, not that a thing of another colour lies there: 0..1; 0 where no ground is seen. */
function evenness(channels: readonly Channel[], i: number): number {
  let [least, sum] = [Infinity, 0];
  for (const { smooth } of channels) {
    const dimmed = Math.max(0, -Math.log(Math.max(DEEPEST_SHADOW, smooth[i]!)));
    least = Math.min(least, dimmed);
    sum += dimmed;
  }
  return sum > 0 ? Math.max(0, Math.min(1, ((channels.length * least) / sum - UNEVEN) / (EVEN - UNEVEN))) : 0;
}

/** Weights of ratios fall by e for each part of this. */
const DARKEST_FIRST = 12;
/** The core of a shadow lies so many radii inside its smoothed edge. */
const CORE_REACH = 3;
/** Deeper shadows have edges that can be told from texture. */
const SHALLOWEST_CORE = 0.75;
/** Of the way from the core to full light, less is core and more is light. */
const INSIDE = 0.12;
const OUTSIDE = 0.9;

/** A smoothed ratio inside a shadow without the light that smoothing lets in from beyond its edge. */
function withoutLeak(smooth: number, core: number): number {
  const wayOut = (smooth - core) / (1 - core);
  return core < SHALLOWEST_CORE && wayOut < INSIDE ? core + (smooth - core) * (1 - wayOut / INSIDE) : smooth;
}

/** Half the side of the neighbourhood of which the median counts: joints and specks are no edges. */
const MEDIAN_PX = 3;

/** Where shadows end, how much of each pixel is shadow, from the photo's own light; not a number elsewhere. */
function edgesOf(
  { before, without, smooth, core }: Channel,
  ground: Float32Array,
  { width, height, data }: Mask,
): Float32Array {
  const isEdge = (i: number): boolean => {
    const wayOut = (smooth[i]! - core[i]!) / (1 - core[i]!);
    return data[i]! > 0 && core[i]! < SHALLOWEST_CORE && wayOut > INSIDE && wayOut < OUTSIDE;
  };
  const edges = new Float32Array(width * height).fill(NaN);
  const ratios = new Float32Array((2 * MEDIAN_PX + 1) ** 2);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (!isEdge(i)) continue;
      let count = 0;
      for (let v = Math.max(0, y - MEDIAN_PX); v <= Math.min(height - 1, y + MEDIAN_PX); v++) {
        for (let u = Math.max(0, x - MEDIAN_PX); u <= Math.min(width - 1, x + MEDIAN_PX); u++) {
          const j = v * width + u;
          if (ground[j]) ratios[count++] = before[j]! / without[j]!;
        }
      }
      if (count === 0) continue;
      const median = ratios.subarray(0, count).sort()[count >> 1]!;
      edges[i] = Math.max(0, Math.min(1, Math.log(median) / Math.log(core[i]!)));
    }
  }
  return edges;
}
