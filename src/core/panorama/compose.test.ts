import { kernels } from '../../../tests/support/kernels.ts';
import { noise, pictureOf, sameBytes } from '../../../tests/support/pictures.ts';
import { cameraAt } from '../../../tests/support/sweep.ts';
import { createImage, cropImage, type RasterImage } from '../image/rasterImage.ts';
import { largestRectangle } from '../mask/largestRectangle.ts';
import { areaOf, createMask } from '../mask/mask.ts';
import { minimumCut } from '../numeric/minimumCut.ts';
import { createRandom } from '../numeric/random.ts';
import { drain } from '../progress.ts';
import { assignFrames, NO_FRAME } from './assignFrames.ts';
import { composePanorama, type Layer } from './composePanorama.ts';
import { findGhosts } from './findGhosts.ts';
import { findGaps, usualGrowPx } from './findGaps.ts';
import { joinPhotos } from './joinPhotos.ts';
import { layOut, scaleLayout, type Layout, partOfSphere } from './layOut.ts';
import { matchTone } from './matchTone.ts';
import { backToFrame, directionAt, extentOf, placeOf, type Projection } from './projection.ts';

const SIZE = { width: 400, height: 300 };
const KINDS = ['planar', 'cylindrical', 'spherical'] as const;

describe('projections', () => {
  test.each(KINDS)('%s: a place shows the direction that lies there', (kind) => {
    const projection: Projection = { kind, scale: 300 };
    for (const [u, v] of [
      [0, 0],
      [150, -80],
      [-310, 120],
    ] as const) {
      const at = placeOf(projection, ...directionAt(projection, u, v));
      expect(at.x).toBeCloseTo(u, 9);
      expect(at.y).toBeCloseTo(v, 9);
    }
  });

  test.each(KINDS)('%s: a frame’s middle lies where the camera looks, at the frame’s own scale', (kind) => {
    const projection: Projection = { kind, scale: 380 };
    const camera = cameraAt(20, 8, 3, 380);
    const r = camera.rotation;
    const { x, y } = placeOf(projection, r[2], r[5], r[8]);
    const points = Float64Array.of(x - 5, y - 7, -4000, 0);
    backToFrame(projection, { x: 5, y: 7 }, camera, SIZE)(points, 2);
    expect(points[0]).toBeCloseTo(200, 6);
    expect(points[1]).toBeCloseTo(150, 6);
    expect(points[2]! > 0 && points[2]! < 400 && points[3]! > 0 && points[3]! < 300).toBe(false);
  });

  test('the extent holds all of a frame, whole turns of it where a pole is seen', () => {
    const sphere: Projection = { kind: 'spherical', scale: 100 };
    const flat = extentOf(sphere, cameraAt(0, 0, 0, 200), SIZE)!;
    // 90 degrees across, and the corners lie no further up than the middle of the upper side.
    expect(flat.width).toBe(2 * Math.ceil(25 * Math.PI));
    expect(flat.height).toBe(2 * Math.ceil(100 * Math.atan(0.75)));
    const up = extentOf(sphere, cameraAt(0, 80, 0, 200), SIZE)!;
    expect(up.width).toBeCloseTo(200 * Math.PI, -1);
    expect(up.y).toBe(Math.floor(-50 * Math.PI));
    expect(extentOf({ kind: 'planar', scale: 100 }, cameraAt(80, 0, 0, 200), SIZE)).toBeUndefined();
  });

  const laid = (yaws: number[], focal: number, choice: 'auto' | 'planar' | 'spherical' = 'auto'): Layout => {
    const cameras = yaws.map((yaw) => cameraAt(yaw, 0, 0, focal));
    return layOut(
      cameras,
      yaws.map(() => SIZE),
      [...yaws.keys()],
      choice,
      4e6,
    );
  };

  test('narrow sweeps are laid out planar, wide ones rolled out, high ones on the sphere', () => {
    expect(laid([-15, 15], 400).projection.kind).toBe('planar');
    expect(laid([-70, -35, 0, 35, 70], 400).projection.kind).toBe('cylindrical');
    expect(laid([-50, 50], 110).projection.kind).toBe('spherical');
    expect(() => laid([-70, 0, 70], 400, 'planar')).toThrow(/choose cylindrical or spherical/);
  });

  test('frames all the way round close, a whole number of px round; too large ones shrink', () => {
    const round = laid([0, 60, 120, 180, 240, 300], 250);
    expect(round.closed).toBe(true);
    expect(round.bounds.width).toBe(Math.round(2 * Math.PI * round.projection.scale));
    expect(laid([0, 60, 120, 180, 240], 250).closed).toBe(false);
    // As a sphere it lies about the horizon; cut at its side, or beyond the poles, it is none.
    const sphere = laid([0, 60, 120, 180, 240, 300], 250, 'spherical');
    const { bounds: all } = sphere;
    const place = partOfSphere(sphere, all)!;
    expect(place.full).toEqual({ width: all.width, height: all.width / 2 });
    expect(Math.abs(place.part.y + place.part.height / 2 - all.width / 4)).toBeLessThanOrEqual(1);
    expect(partOfSphere(round, round.bounds)).toBeUndefined();
    expect(partOfSphere(sphere, { ...all, width: all.width - 8 })).toBeUndefined();
    expect(partOfSphere(sphere, { ...all, height: all.width })).toBeUndefined();
    const cameras = [cameraAt(-15, 0, 0, 400), cameraAt(15, 0, 0, 400)];
    const { bounds } = layOut(cameras, [SIZE, SIZE], [0, 1], 'auto', 50_000);
    expect(bounds.width * bounds.height).toBeLessThanOrEqual(50_000);
  });
});

test('the minimum cut costs as little as the best of all cuts', () => {
  const random = createRandom(11);
  for (let trial = 0; trial < 120; trial++) {
    const [width, height] = [2 + (trial % 3), 2 + ((trial >> 2) % 3)];
    const count = width * height;
    const neighbours = new Int32Array(4 * count).fill(-1);
    for (let i = 0; i < count; i++) {
      const x = i % width;
      if (x + 1 < width) neighbours[4 * i] = i + 1;
      if (x > 0) neighbours[4 * i + 1] = i - 1;
      if (i + width < count) neighbours[4 * i + 2] = i + width;
      if (i >= width) neighbours[4 * i + 3] = i - width;
    }
    const capacities = Float32Array.from(neighbours, (other) => (other >= 0 ? random.below(5) : 0));
    const terminals = Float32Array.from({ length: count }, () => random.below(11) - 5);
    const costOf = (isSource: (i: number) => boolean): number => {
      let cost = 0;
      for (let i = 0; i < count; i++) {
        if (terminals[i]! > 0 !== isSource(i)) cost += Math.abs(terminals[i]!);
        for (let k = 4 * i; isSource(i) && k < 4 * i + 4; k++) {
          if (neighbours[k]! >= 0 && !isSource(neighbours[k]!)) cost += capacities[k]!;
        }
      }
      return cost;
    };
    let best = Infinity;
    for (let cut = 0; cut < 1 << count; cut++)
      best = Math.min(
        best,
        costOf((i) => ((cut >> i) & 1) === 1),
      );
    const sides = minimumCut(neighbours, capacities.slice(), terminals.slice());
    expect(costOf((i) => sides[i] === 1)).toBe(best);
  }
});

/** Layers on a canvas: each shows columns `from` to `to` of a picture. */
const strip = (from: number, to: number, colour: (x: number, y: number) => [number, number, number]): RasterImage => {
  const image = createImage(120, 60);
  for (let y = 0; y < 60; y++) {
    for (let x = from; x < to; x++) image.data.set([...colour(x, y), 255], 4 * (y * 120 + x));
  }
  return image;
};
const disc =
  (cx: number, cy: number) =>
  (x: number, y: number): [number, number, number] =>
    Math.hypot(x - cx, y - cy) < 10 ? [220, 40, 40] : [120, 130 + (x % 7), 140];

describe('which frame is shown where', () => {
  const left = { frame: 4, image: strip(0, 80, disc(62, 20)) };
  const right = { frame: 9, image: strip(40, 120, disc(60, 40)) };

  test('each px shows a frame that is there; a thing that moved is not cut', () => {
    const labels = assignFrames([left, right], false);
    for (let i = 0; i < labels.length; i++) {
      if (i % 120 < 40) expect(labels[i]).toBe(4);
      if (i % 120 >= 80) expect(labels[i]).toBe(9);
    }
    for (const [cx, cy] of [
      [62, 20],
      [60, 40],
    ] as const) {
      const shown = new Set<number>();
      for (let y = 0; y < 60; y++) {
        for (let x = 0; x < 120; x++) if (Math.hypot(x - cx, y - cy) < 9) shown.add(labels[y * 120 + x]!);
      }
      expect(shown.size).toBe(1);
    }
  });

  test('a frame that is asked for by hand is shown there, as far as it reaches', () => {
    const mask = createMask(120, 60);
    for (let y = 10; y < 50; y++) mask.data.fill(255, y * 120 + 20, y * 120 + 70);
    const labels = assignFrames([left, right], false, [{ frame: 9, mask }]);
    for (let y = 10; y < 50; y++) {
      for (let x = 20; x < 70; x++) expect(labels[y * 120 + x]).toBe(x < 40 ? 4 : 9);
    }
  });

  test('a thing that is cut is told, the worst place first; frames that agree have no ghosts', () => {
    const half = new Uint8Array(120 * 60).map((_, i) => (i % 120 < 60 ? 4 : 9));
    const ghosts = findGhosts([left, right], half);
    expect(ghosts.length).toBeGreaterThan(0);
    const [worst] = ghosts;
    expect(Math.hypot(worst!.x - 60, worst!.y - 30)).toBeLessThan(22);
    expect(worst!.frames).toEqual([4, 9]);
    const same = { frame: 9, image: strip(40, 120, disc(62, 20)) };
    expect(findGhosts([left, same], half)).toEqual([]);
  });

  test('nothing is shown where no frame is', () => {
    expect(assignFrames([{ frame: 0, image: strip(0, 30, disc(0, 0)) }], false)[100]).toBe(NO_FRAME);
  });
});

describe('the panorama put together', () => {
  const bounds = { x: 0, y: 0, width: 700, height: 200 };
  const layout: Layout = {
    projection: { kind: 'planar', scale: 1 },
    bounds,
    closed: false,
    viewDeg: { across: 0, down: 0 },
  };
  const grain = noise(2, 20);
  const whole = pictureOf(700, 200, (x, y) => [100 + 60 * Math.sin(x / 40) + grain(), 120 + y / 3, 128 + grain()]);
  const layer = (frame: number, x: number, width: number, brighter = 0): Layer => {
    const image = cropImage(whole, { x, y: 0, width, height: 200 });
    for (let i = 0; i < image.data.length; i++) if (i % 4 < 3) image.data[i]! += brighter;
    return { frame, rect: { x, y: 0, width, height: 200 }, image };
  };
  const assigned = (closed = false) => {
    const small = scaleLayout({ ...layout, closed }, 0.25);
    const labels = new Uint8Array(small.bounds.width * small.bounds.height);
    labels.forEach((_, i) => void (labels[i] = i % small.bounds.width < small.bounds.width / 2 ? 0 : 1));
    return { layout: small, labels };
  };

  test('frames that agree give the picture they were taken from, to the byte', () => {
    const layers = [layer(0, 0, 450), layer(1, 250, 450)];
    const out = drain(composePanorama(layers, assigned(), layout, bounds, 4));
    expect(sameBytes(out, whole)).toBe(true);
  });

  test('a difference in brightness crosses over smoothly around the seam, and only there', () => {
    const layers = [layer(0, 0, 450), layer(1, 250, 450, 24)];
    const out = drain(composePanorama(layers, assigned(), layout, bounds, 4));
    const raised = Array.from({ length: 700 }, (_, x) => {
      let sum = 0;
      for (let y = 0; y < 200; y++) sum += out.data[4 * (y * 700 + x) + 1]! - whole.data[4 * (y * 700 + x) + 1]!;
      return sum / 200;
    });
    expect(raised[280]).toBeCloseTo(0, 0);
    expect(raised[420]).toBeCloseTo(24, 0);
    expect(Math.abs(raised[350]! - 12)).toBeLessThan(3);
    for (let x = 281; x < 420; x++) expect(Math.abs(raised[x]! - raised[x - 1]!)).toBeLessThan(2);
  });

  test('a part beyond the frames is transparent there; a part is the same as in the whole', () => {
    const layers = [layer(0, 0, 450), layer(1, 250, 450, 24)];
    const all = drain(composePanorama(layers, assigned(), layout, bounds, 4));
    const part = drain(composePanorama(layers, assigned(), layout, { x: 300, y: -20, width: 500, height: 100 }, 4));
    expect(part.data[3]).toBe(0);
    expect(part.data[4 * (50 * 500 + 450) + 3]).toBe(0);
    const inside = cropImage(part, { x: 0, y: 20, width: 400, height: 80 });
    expect(sameBytes(inside, cropImage(all, { x: 300, y: 0, width: 400, height: 80 }))).toBe(true);
  });

  test('a closed panorama meets itself at its ends', () => {
    const closed = {
      ...layout,
      closed: true,
      projection: { kind: 'cylindrical' as const, scale: 700 / (2 * Math.PI) },
    };
    const over = { ...layer(1, 250, 450, 24), rect: { x: 250, y: 0, width: 450, height: 200 } };
    // The first frame reaches 100 px beyond the left end: it is seen at the right one.
    const before = createImage(450, 200);
    for (let y = 0; y < 200; y++) {
      for (let x = 0; x < 450; x++)
        before.data.set(
          whole.data.subarray(4 * (y * 700 + ((x + 600) % 700)), 4 * (y * 700 + ((x + 600) % 700)) + 4),
          4 * (y * 450 + x),
        );
    }
    const first: Layer = { frame: 0, rect: { x: -100, y: 0, width: 450, height: 200 }, image: before };
    const out = drain(composePanorama([first, over], assigned(true), closed, bounds, 4));
    let step = 0;
    for (let y = 0; y < 200; y++) {
      step +=
        out.data[4 * (y * 700) + 1]! -
        whole.data[4 * (y * 700) + 1]! -
        (out.data[4 * (y * 700 + 699) + 1]! - whole.data[4 * (y * 700 + 699) + 1]!);
    }
    expect(Math.abs(step / 200)).toBeLessThan(2);
  });
});

test('the largest rectangle is the largest of all', () => {
  const random = createRandom(5);
  for (let trial = 0; trial < 40; trial++) {
    const [width, height] = [5 + (trial % 4), 4 + (trial % 3)];
    const holds = Array.from({ length: width * height }, () => random.below(4) > 0);
    let best = 0;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        for (let h = 1; y + h <= height; h++)
          for (let w = 1; x + w <= width; w++) {
            let all = true;
            for (let v = y; v < y + h; v++) for (let u = x; u < x + w; u++) all &&= holds[v * width + u]!;
            if (all) best = Math.max(best, w * h);
          }
    const found = largestRectangle({ width, height }, (i) => holds[i]!);
    expect(found.width * found.height).toBe(best);
    for (let v = found.y; v < found.y + found.height; v++)
      for (let u = found.x; u < found.x + found.width; u++) expect(holds[v * width + u]).toBe(true);
  }
});

describe('gaps', () => {
  test('what is transparent is a gap, grown by so many px', () => {
    const image = pictureOf(60, 40, () => [90, 90, 90]);
    for (let y = 0; y < 40; y++) image.data[4 * (y * 60) + 3] = 0;
    const mask = findGaps(image, 'none', 254, 3);
    expect([mask.data[0], mask.data[3], mask.data[5]]).toEqual([255, 255, 0]);
  });

  test('near-white counts where it reaches the edge, not inside', () => {
    const isCorner = (x: number, y: number): boolean => x + y < 12;
    const isWindow = (x: number, y: number): boolean => x > 30 && x < 38 && y > 20 && y < 28;
    const image = pictureOf(60, 40, (x, y) => (isCorner(x, y) || isWindow(x, y) ? [251, 252, 250] : [90, 90, 90]));
    const mask = findGaps(image, 'white', 8, 0);
    expect(mask.data[0]).toBe(255);
    expect(mask.data[24 * 60 + 34]).toBe(0);
    expect(areaOf(findGaps(image, 'white', 2, 0))).toBe(0);
    expect(areaOf(findGaps(image, 'black', 8, 5))).toBe(0);
  });

  test('a larger picture has its gaps grown by more', () => {
    expect(usualGrowPx({ width: 800, height: 600 })).toBe(2);
    expect(usualGrowPx({ width: 8000, height: 2000 })).toBe(10);
  });
});

describe('two photos joined', () => {
  const grain = noise(9, 25);
  const first = pictureOf(90, 60, () => [150 + grain(), 140 + grain(), 120 + grain()]);
  const second = pictureOf(80, 120, () => [80 + grain(), 90 + grain(), 110 + grain()]);
  const mean = (image: RasterImage, from: number, to: number, c: number): number => {
    let sum = 0;
    for (let y = 0; y < image.height; y++)
      for (let x = from; x < to; x++) sum += image.data[4 * (y * image.width + x) + c]!;
    return sum / image.height / (to - from);
  };

  test('side by side at one height with a vacant space, the first untouched', () => {
    const out = drain(joinPhotos(first, second, { gapPx: 20, tone: 0 }, kernels));
    expect([out.width, out.height]).toEqual([90 + 20 + 40, 60]);
    expect(cropImage(out, { x: 0, y: 0, width: 90, height: 60 }).data).toEqual(first.data);
    expect(out.data[4 * 100 + 3]).toBe(0);
    expect(mean(out, 112, 148, 0)).toBeCloseTo(80, -1);
  });

  test('the second takes on the tone of the first, as far as is asked', () => {
    const half = drain(joinPhotos(first, second, { gapPx: 20, tone: 0.5 }, kernels));
    const full = drain(joinPhotos(first, second, { gapPx: 20, tone: 1 }, kernels));
    for (const c of [0, 1, 2]) {
      expect(Math.abs(mean(full, 112, 148, c) - mean(first, 0, 90, c))).toBeLessThan(3);
      expect(Math.abs(mean(half, 112, 148, c) - (mean(first, 0, 90, c) + mean(second, 0, 80, c)) / 2)).toBeLessThan(3);
    }
    expect(matchTone(second, first, 0).data).toEqual(second.data);
  });

  test('overlapping, they are blended and leave no gap; by more than a half they are refused', () => {
    const out = drain(joinPhotos(first, second, { gapPx: -16, tone: 1 }, kernels));
    expect(out.width).toBe(90 + 40 - 16);
    expect(out.data.every((value, i) => i % 4 !== 3 || value === 255)).toBe(true);
    expect(() => drain(joinPhotos(first, second, { gapPx: -30, tone: 1 }, kernels))).toThrow(/overlap by less/);
  });
});
