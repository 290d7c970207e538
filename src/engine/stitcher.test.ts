import { kernels } from '../../tests/support/kernels.ts';
import { pictureOf, sameBytes } from '../../tests/support/pictures.ts';
import { cameraAt, shoot } from '../../tests/support/sweep.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import { applyHomography } from '../core/geometry/homography.ts';
import { homographyBetween, NO_TURN } from '../core/panorama/camera.ts';
import { openVision, type Vision } from '../vision/vision.ts';
import type { FrameFile } from './foundFrames.ts';
import { coveredRect, type PanoramaSettings } from './panoramaPlan.ts';
import { openStitcher, type Stitcher } from './stitcher.ts';

const SIZE = { width: 320, height: 240 };
const FOCAL = 307;
const CAMERAS = [-30, 0, 31].map((yaw, k) => cameraAt(yaw, k - 1, 0.5 - k / 2, FOCAL));
const GAINS = [1, 0.8, 1.15];
const SETTINGS: PanoramaSettings = { projection: 'auto', turn: NO_TURN, pulled: [] };

const fileOf = (name: string, image: RasterImage): FrameFile => ({ name, open: () => Promise.resolve(image) });
const frames = CAMERAS.map((camera, k) => fileOf(`frame-${k}`, shoot(camera, SIZE, { gain: GAINS[k]! })));
const foreign = fileOf('elsewhere', shoot(cameraAt(0, 0, 0, FOCAL), SIZE, { seed: 5000 }));
const blank = fileOf(
  'blank',
  pictureOf(SIZE.width, SIZE.height, () => [90, 90, 90]),
);

let vision: Vision;
/** Of the three frames alone. */
let stitcher: Stitcher;
const stages: string[] = [];
beforeAll(async () => {
  vision = await openVision();
  const onProgress = ({ stage }: { stage: string }): void => void stages.push(stage);
  stitcher = await openStitcher(frames, vision, kernels, 50e6, { onProgress });
});
const stitch = (files: readonly FrameFile[]) => openStitcher(files, vision, kernels, 50e6);

test('a sweep is understood: cameras, gains, order; the same whatever the order in which frames come', async () => {
  const { report } = stitcher;
  expect(new Set(stages).size).toBeGreaterThan(4);
  expect(report.order).toEqual([0, 1, 2]);
  for (const [k, frame] of report.frames.entries()) {
    expect(frame.used).toBe(true);
    expect(frame.focalPx! / FOCAL).toBeCloseTo(1, 1.7);
    expect(frame.gain! / GAINS[k]!).toBeCloseTo(1, 1.7);
    expect(frame.reprojectionErrorPx).toBeLessThan(0.5);
    const truth = homographyBetween(CAMERAS[k]!, SIZE, CAMERAS[0]!, SIZE);
    const [is, should] = [frame.homography!, truth].map((h) => applyHomography(h, 50, 140));
    if (k < 2) expect(Math.hypot(is!.x - should!.x, is!.y - should!.y)).toBeLessThan(0.7);
  }
  const plan = await stitcher.plan(SETTINGS);
  const panorama = await stitcher.render(plan, plan.layout.bounds);

  const [a, b, c] = frames;
  const shuffled = await stitch([foreign, c!, a!, b!]);
  expect(shuffled.report.order).toEqual([2, 3, 1]);
  expect(shuffled.report.frames[0]).toMatchObject({ name: 'elsewhere', used: false, why: 'apart' });
  const again = await shuffled.plan(SETTINGS);
  expect(again.layout).toEqual(plan.layout);
  const other = await shuffled.render(again, again.layout.bounds);
  expect(sameBytes(other, panorama)).toBe(true);
});

test('seams do not show: the panorama is what one wide frame would have seen', async () => {
  const plan = await stitcher.plan({ ...SETTINGS, projection: 'planar' });
  const part = coveredRect(plan);
  const panorama = await stitcher.render(plan, part);
  expect(panorama.data.every((value, i) => i % 4 !== 3 || value === 255)).toBe(true);
  // Every px of the middle frame, against what the panorama shows in its direction: the seams cross it twice.
  const straight = { rotation: NO_TURN, focalPx: plan.layout.projection.scale, bend: 0 };
  const toPanorama = homographyBetween(plan.cameras[plan.given.indexOf(1)]!, SIZE, straight, { width: 0, height: 0 });
  const middle = await frames[1]!.open();
  const ratios: number[] = [];
  for (let y = 40; y < 200; y += 2) {
    for (let x = 16; x < 304; x += 2) {
      const at = applyHomography(toPanorama, x + 0.5, y + 0.5);
      const [u, v] = [Math.floor(at.x - part.x), Math.floor(at.y - part.y)];
      if (u < 0 || v < 0 || u >= part.width || v >= part.height) continue;
      ratios.push(Math.log(panorama.data[4 * (v * part.width + u) + 1]! / middle.data[4 * (y * SIZE.width + x) + 1]!));
    }
  }
  expect(ratios.length).toBeGreaterThan(4000);
  // All of it is brighter by the same, however the frames were exposed: 15 % between neighbours would be ten times that.
  ratios.sort((a, b) => a - b);
  const spread = ratios[Math.floor(0.9 * ratios.length)]! - ratios[Math.floor(0.1 * ratios.length)]!;
  expect(spread).toBeLessThan(0.1);
});

test('a frame pulled in front is shown where the hand painted', async () => {
  const before = await stitcher.plan(SETTINGS);
  const place = before.layout.projection.scale * -0.2;
  const pulled = [{ frame: 0, path: [[Math.sin(-0.2), 0, Math.cos(-0.2)] as const], radiusRad: 0.05 }];
  const after = await stitcher.plan({
    ...SETTINGS,
    pulled: pulled.map((p) => ({ ...p, path: p.path.map((d) => [...d] as [number, number, number]) })),
  });
  const { layout, labels } = after.assignment;
  const x = Math.round(place * (layout.projection.scale / before.layout.projection.scale) - layout.bounds.x);
  const y = Math.round(-layout.bounds.y);
  expect(after.given[labels[y * layout.bounds.width + x]!]).toBe(0);
});

test('what can’t be stitched is told in a sentence', async () => {
  await expect(stitch([frames[0]!])).rejects.toThrow(/One frame makes no panorama/);
  await expect(stitch(new Array<FrameFile>(61).fill(blank))).rejects.toThrow(/take out all but 60/);
  await expect(stitch([frames[0]!, foreign])).rejects.toThrow(/No two of these frames show the same thing/);
  await expect(stitch([blank, frames[0]!])).rejects.toThrow(/too blurred or too plain/);
  await expect(stitch([frames[0]!, fileOf('copy', await frames[0]!.open())])).rejects.toThrow(/No two of these/);
});

test('the same frame twice, a blank one and a smaller one: the first two are left out and named, the last fits', async () => {
  const small = fileOf('small', shoot(cameraAt(-15, 0, 0, FOCAL / 1.5), { width: 213, height: 160 }));
  const { report } = await stitch([...frames, fileOf('copy', await frames[1]!.open()), blank, small]);
  const copies = [report.frames[1]!, report.frames[3]!];
  expect(copies.filter(({ used }) => used)).toHaveLength(1);
  expect(copies.find(({ used }) => !used)).toMatchObject({ why: 'same' });
  expect(report.frames[4]).toMatchObject({ used: false, why: 'featureless' });
  expect(report.frames[5]!.used).toBe(true);
  expect(report.frames[5]!.focalPx! / (FOCAL / 1.5)).toBeCloseTo(1, 1.5);
});

test('two groups are told apart', async () => {
  const other = [-14, 14].map((yaw, k) =>
    fileOf(`other-${k}`, shoot(cameraAt(yaw, 0, 0, FOCAL), SIZE, { seed: 5000 })),
  );
  const { report } = await stitch([other[0]!, ...frames, other[1]!]);
  expect(report.frames.map(({ group }) => group)).toEqual([1, 0, 0, 0, 1]);
});

test('a full turn closes, its ends meet', async () => {
  const round = Array.from({ length: 7 }, (_, k) =>
    fileOf(`turn-${k}`, shoot(cameraAt((360 * k) / 7, 0, 0, 158), { width: 240, height: 180 })),
  );
  const turn = await stitch(round);
  const plan = await turn.plan(SETTINGS);
  expect(plan.layout.closed).toBe(true);
  const { bounds } = plan.layout;
  const strip = await turn.render(plan, { x: bounds.x + bounds.width - 40, y: -50, width: 80, height: 100 });
  expect(strip.data.every((value, i) => i % 4 !== 3 || value === 255)).toBe(true);
});

test('portrait frames in a column stand above one another', async () => {
  const upright = { width: 225, height: 300 };
  const column = [-22, 0, 22].map((pitch, k) => fileOf(`row-${k}`, shoot(cameraAt(0, pitch, 0, 317), upright)));
  const standing = await stitch(column);
  expect(standing.report.order).toEqual([2, 1, 0]);
  const { bounds, projection } = (await standing.plan(SETTINGS)).layout;
  expect(projection.kind).toBe('planar');
  expect(bounds.height).toBeGreaterThan(2 * bounds.width);
});
