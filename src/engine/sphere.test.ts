import { kernels } from '../../tests/support/kernels.ts';
import { differingPixels, sameBytes } from '../../tests/support/pictures.ts';
import { colouredSphere } from '../../tests/support/sphere.ts';
import { wholeOf } from '../core/image/rect.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import { cropSphere, pixelsOf } from '../core/sphere/lookAround.ts';
import { sphereToView } from '../core/sphere/sphereView.ts';
import { composePatches } from '../operations/composePatches.ts';
import { parseStep, type Step } from '../operations/recipe.ts';
import { createInProcessRunner } from './inProcessRunner.ts';
import { createMemoryStore } from './memoryStore.ts';
import { createPictureSource } from './pictureSource.ts';
import { createWorkshop, type Rendering } from './workshop.ts';

const SPHERE = colouredSphere(512);
const VIEW = { yaw: 180, pitch: -20, roll: 0, fov: 90, width: 160, height: 120 };
const take = { strategy: 'large pieces', seed: 1 };
const signal = new AbortController().signal;

const step = (id: string, type: string, params: object): Step => parseStep({ id, type, version: 1, params });
const stroke = (x: number, y: number) => ({
  shapes: [{ kind: 'stroke', combine: 'also', points: [x, y], radiusPx: 12, hardness: 1, intensity: 1 }],
});
const clearing = (id: string, view: object = VIEW, x = 80): Step =>
  step(id, 'clear', { mark: stroke(x, 60), view, take });
const levelling = (turn: object): Step =>
  step('level', 'turnSphere', { ...turn, take: { strategy: 'as it is', seed: 1 } });

const workshopOn = (image: RasterImage) =>
  createWorkshop(createPictureSource(image, 'sphere', kernels), createInProcessRunner(kernels), createMemoryStore(1e8));

async function pictureOf({ source, patches }: Rendering): Promise<RasterImage> {
  const image = await source.crop(wholeOf(source.photo));
  composePatches(image, { x: 0, y: 0 }, patches);
  return image;
}

test('a step made in a direct view changes the sphere near its mark, across the wrap, and nowhere else', async () => {
  const { renderings } = await workshopOn(SPHERE).replay([clearing('a')], { signal });
  const after = await pictureOf(renderings[1]!);
  const changed = differingPixels(after, SPHERE);
  const columns = new Set(changed.map((i) => i % 512));
  expect(columns.has(0) && columns.has(511)).toBe(true);
  const forward = sphereToView(VIEW, SPHERE);
  for (const i of changed) {
    const at = Float64Array.of((i % 512) + 0.5, Math.floor(i / 512) + 0.5);
    forward(at, 1);
    expect(Math.hypot(at[0]! - 80, at[1]! - 60)).toBeLessThan(12 + 10);
  }
});

test('at the wrap a step gives what it gives where there is none', async () => {
  const rolled = cropSphere(pixelsOf(SPHERE), { ...wholeOf(SPHERE), x: 256 });
  const at = async (image: RasterImage, yaw: number): Promise<RasterImage> =>
    pictureOf((await workshopOn(image).replay([clearing('a', { ...VIEW, yaw })], { signal })).renderings[1]!);
  const atWrap = await at(SPHERE, 180);
  const inMiddle = await at(rolled, 0);
  const back = cropSphere(pixelsOf(inMiddle), { ...wholeOf(SPHERE), x: 256 });
  expect(differingPixels(back, atWrap, 1)).toEqual([]);
});

test('takes of a view are looked at in it, and the rendering after one is the sphere again', async () => {
  const workshop = workshopOn(SPHERE);
  const { type, params } = clearing('a');
  const rendering = await workshop.reshaped(workshop.origin, type, params, signal);
  expect(rendering.source.photo).toEqual({ width: 160, height: 120 });
  const [made] = await workshop.makeTakes(workshop.origin, type, params, 0, { signal, count: 1 });
  for (const { rect } of made!.result.patches) expect(rect.x + rect.width).toBeLessThanOrEqual(160);
  const after = await workshop.after(workshop.origin, type, params, made!.result);
  expect(after.source.photo).toEqual({ width: 512, height: 256 });
  expect(after.patches.length).toBeGreaterThan(0);
});

test('a later view shows what an earlier step made, from whatever side it looks', async () => {
  const workshop = workshopOn(SPHERE);
  const { renderings } = await workshop.replay([clearing('a')], { signal });
  const before = await (await workshop.seen(renderings[0]!, { ...VIEW, yaw: 160 })).source.crop(wholeOf(VIEW));
  const seen = await workshop.seen(renderings[1]!, { ...VIEW, yaw: 160 });
  expect(differingPixels(await seen.source.crop(wholeOf(VIEW)), before, 1).length).toBeGreaterThan(50);
  expect(sameBytes(await seen.untouched.crop(wholeOf(VIEW)), before)).toBe(true);
});

test('the same steps give the same bytes', async () => {
  const steps = [clearing('a'), clearing('b', { ...VIEW, yaw: 170, pitch: -80 }, 70)];
  const make = async (): Promise<RasterImage> =>
    pictureOf((await workshopOn(SPHERE).replay(steps, { signal })).renderings.at(-1)!);
  const one = await make();
  expect(sameBytes(one, await make())).toBe(true);
});

test('a sphere is levelled in one resampling, what was changed before with it', async () => {
  const level = levelling({ pitch: 12, roll: -7 });
  const { renderings } = await workshopOn(SPHERE).replay([clearing('a'), level], { signal });
  const { renderings: plain } = await workshopOn(SPHERE).replay([level], { signal });
  const after = await pictureOf(renderings[2]!);
  expect(after.width).toBe(512);
  const moved = differingPixels(after, await pictureOf(plain[1]!), 2).length;
  expect(moved).toBeGreaterThan(100);
  expect(moved).toBeLessThan(4000);
  const back = levelling({ pitch: 0, roll: 0 });
  const { renderings: again } = await workshopOn(SPHERE).replay(
    [levelling({ yaw: 180 }), { ...back, id: 'x', params: levelling({ yaw: 180 }).params }],
    { signal },
  );
  expect(differingPixels(await pictureOf(again[2]!), SPHERE, 1)).toEqual([]);
});

test('views of what is no sphere, and other frames of a levelled one, are refused in a sentence', async () => {
  const flat = { ...SPHERE, height: 200, data: SPHERE.data.slice(0, 4 * 512 * 200) };
  const refusal = async (image: typeof flat, steps: Step[]): Promise<string | undefined> =>
    (await workshopOn(image).replay(steps, { signal })).failed?.message;
  expect(await refusal(flat, [clearing('a')])).toMatch(/exactly twice as wide as high/);
  expect(await refusal(flat, [levelling({ roll: 3 })])).toMatch(/512 x 200 px/);
  const enlarge = step('e', 'enlarge', { width: 600, height: 300, take: { strategy: 'as it is', seed: 1 } });
  expect(await refusal(SPHERE, [levelling({ roll: 3 }), enlarge])).toMatch(/another frame/);
});
