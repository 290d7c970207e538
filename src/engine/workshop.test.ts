import { kernels } from '../../tests/support/kernels.ts';
import { pictureOf } from '../../tests/support/pictures.ts';
import { cropImage, type RasterImage } from '../core/image/rasterImage.ts';
import { wholeOf } from '../core/image/rect.ts';
import { composePatches } from '../operations/composePatches.ts';
import { kindOf } from '../operations/kinds.ts';
import { parseStep, type Step } from '../operations/recipe.ts';
import { createInProcessRunner } from './inProcessRunner.ts';
import { createPictureSource } from './pictureSource.ts';
import { createMemoryStore } from './memoryStore.ts';
import type { TakeSpec } from '../operations/rebuild/rebuildSchema.ts';
import type { Job, Runner } from './protocol.ts';
import { createWorkshop, stepFailed } from './workshop.ts';

const PHOTO = pictureOf(200, 150, (x, y) => {
  const value = y % 12 < 2 ? 60 : 150 + (x % 5);
  return [value, value, value];
});
const signal = new AbortController().signal;

const clearing = (id: string, x: number, change: Record<string, unknown> = {}): Step =>
  parseStep({
    id,
    type: 'clear',
    version: 1,
    params: {
      mark: { shapes: [{ kind: 'stroke', combine: 'also', points: [x, 70], radiusPx: 10, hardness: 1, intensity: 1 }] },
      take: { strategy: 'large pieces', seed: 1 },
      ...change,
    },
  });

/** A workshop that tells which jobs were really done. */
function observed() {
  const done: Job[] = [];
  const lanes: number[] = [];
  const inner = createInProcessRunner(kernels);
  const runner: Runner = {
    width: 2,
    run(job, lane, abort, onProgress) {
      done.push(job);
      lanes.push(lane);
      return inner.run(job, lane, abort, onProgress);
    },
  };
  const source = createPictureSource(PHOTO, 'original', kernels);
  return { done, lanes, workshop: createWorkshop(source, runner, createMemoryStore(1e8)) };
}

test('a changed early step is computed again with all that follow it, an added one alone', async () => {
  const { done, workshop } = observed();
  const steps = [clearing('a', 40), clearing('b', 90)];
  await workshop.replay(steps, { signal });
  expect(done).toHaveLength(2);
  await workshop.replay([...steps, clearing('c', 150)], { signal });
  expect(done).toHaveLength(3);
  await workshop.replay([clearing('a', 40, { closeness: 0 }), steps[1]!], { signal });
  expect(done).toHaveLength(5);
});

test('a step that fails ends a replay with all that stands before it, named with its sentence', async () => {
  const { workshop } = observed();
  const outside = clearing('out', 9000);
  const good = [clearing('a', 40), clearing('b', 90)];
  const { renderings } = await workshop.replay(good, { signal });
  const { renderings: kept, failed } = await workshop.replay([...good, outside, clearing('c', 150)], { signal });
  expect(kept).toEqual(renderings);
  expect(failed).toMatchObject({ id: 'out', index: 2, message: expect.stringMatching(/^Nothing is marked inside/) });
  expect(stepFailed(failed!, [...good, outside]).message).toMatch(
    /^Step 3 \(Cleared\) can’t be made: Nothing is marked/,
  );
});

test('a replay that is cancelled fails no step', async () => {
  const { workshop } = observed();
  await expect(workshop.replay([clearing('a', 40)], { signal: AbortSignal.abort() })).rejects.toMatchObject({
    name: 'AbortError',
  });
});

test('a step switched off changes nothing, and what follows is computed on the picture without it', async () => {
  const { workshop } = observed();
  const [a, b] = [clearing('a', 40), clearing('b', 90)];
  const { renderings } = await workshop.replay([{ ...a, enabled: false }, b], { signal });
  expect(renderings[1]).toEqual(workshop.origin);
  expect(renderings[2]).toEqual((await workshop.replay([b], { signal })).renderings[1]);
});

test('switching a step off and on again computes nothing anew', async () => {
  const { done, workshop } = observed();
  const [a, b] = [clearing('a', 40), clearing('b', 90)];
  const before = await workshop.replay([a, b], { signal });
  await workshop.replay([{ ...a, enabled: false }, b], { signal });
  const count = done.length;
  expect(await workshop.replay([a, b], { signal })).toEqual(before);
  expect(done).toHaveLength(count);
});

test('a round of takes reports each one and shares that reach the end', async () => {
  const { workshop } = observed();
  const { params } = clearing('a', 60);
  const shares: number[] = [];
  const arrived: string[] = [];
  const takes = await workshop.makeTakes(workshop.origin, 'clear', params, 0, {
    signal,
    onTake: ({ spec }) => arrived.push(spec.strategy),
    onProgress: ({ share }) => shares.push(share),
  });
  expect(takes.length).toBeGreaterThanOrEqual(3);
  expect(new Set(arrived).size).toBe(takes.length);
  expect(Math.max(...shares)).toBeLessThanOrEqual(1);
  expect(shares.at(-1)!).toBeGreaterThan(0.9);
});

test('takes that look for planes are made by one lane, which looks once', async () => {
  const { done, lanes, workshop } = observed();
  await workshop.makeTakes(workshop.origin, 'clear', clearing('a', 60).params, 0, { signal });
  const strategies = done.map((job) => (job as { params: { take: TakeSpec } }).params.take.strategy);
  const lanesOf = (names: readonly string[]) => lanes.filter((_, k) => names.includes(strategies[k]!));
  expect(new Set(lanes).size).toBe(2);
  expect(lanesOf(['along planes', 'by colour and form'])).toEqual([0, 0]);
});

test('a cancelled computation stops with an AbortError and leaves nothing half done in the store', async () => {
  const { done, workshop } = observed();
  const { params } = clearing('a', 60);
  const controller = new AbortController();
  const work = workshop.apply(workshop.origin, 'clear', params, {
    signal: controller.signal,
    onProgress: ({ share }) => share > 0.1 && controller.abort(),
  });
  await expect(work).rejects.toThrow(expect.objectContaining({ name: 'AbortError' }));
  await workshop.apply(workshop.origin, 'clear', params, { signal });
  expect(done).toHaveLength(2);
});

test('a job with pixels of the wrong size is refused at the boundary', async () => {
  const rect = { x: 0, y: 0, width: 10, height: 10 };
  const region = { rect, image: pictureOf(9, 10, () => [0, 0, 0]) };
  const job: Job = {
    kind: 'step',
    type: 'clear',
    params: {},
    photo: PHOTO,
    regions: [region],
    inputKey: 'k',
    alone: true,
  };
  await expect(createInProcessRunner(kernels).run(job, 0, signal)).rejects.toThrow('A crop has its own size.');
});

const framing = (id: string, rect: Record<string, number>): Step =>
  parseStep({
    id,
    type: 'reframe',
    version: 1,
    params: { frame: { rect }, rimPx: 0, take: { strategy: 'large pieces', seed: 1 } },
  });

test('who asks for a picture that somebody else has cancelled still gets it', async () => {
  const { workshop } = observed();
  const params = kindOf('stretch').schema.parse({ width: 260, height: 140, take: { strategy: 'as it is', seed: 1 } });
  const first = new AbortController();
  const cancelled = workshop.reshaped(workshop.origin, 'stretch', params, first.signal);
  const wanted = workshop.reshaped(workshop.origin, 'stretch', params, signal);
  first.abort();
  await expect(cancelled).rejects.toMatchObject({ name: 'AbortError' });
  expect((await wanted).source.photo).toEqual({ width: 260, height: 140 });
});

test('a layer is made once: moved, weakened, hidden, or over another picture it is the same', async () => {
  const { done, workshop } = observed();
  const WORDS = { text: 'I', face: '', align: 'left', lineHeight: 1, outline: 'M0 0L500 0L500 1000L0 1000Z' };
  const LOOKS = { block: { width: 500, height: 1000 }, sizePx: 20, colour: '#ff8000' };
  const words = (place: object): Step => {
    const take = { strategy: 'as it is', seed: 1 };
    return parseStep({ id: 't', type: 'text', version: 1, params: { ...WORDS, ...LOOKS, ...place, take } });
  };
  const pictureAfter = async (...steps: Step[]) => {
    const rendering = (await workshop.replay(steps, { signal })).renderings.at(-1)!;
    const image = await rendering.source.crop(wholeOf(rendering.source.photo));
    composePatches(image, { x: 0, y: 0 }, rendering.patches);
    return image;
  };
  const here = await pictureAfter(words({ x: 10, y: 12, opacity: 1 }));
  expect(done).toHaveLength(1);
  const there = await pictureAfter(words({ x: 60, y: 80, opacity: 0.5 }));
  await pictureAfter({ ...words({ x: 60, y: 80, opacity: 0.5 }), enabled: false });
  expect(done).toHaveLength(1);
  const at = ({ data }: RasterImage, x: number, y: number) => [
    ...data.subarray(4 * (y * 200 + x), 4 * (y * 200 + x) + 3),
  ];
  expect(at(here, 12, 15)).toEqual([255, 128, 0]);
  expect(at(there, 12, 15)).toEqual(at(PHOTO, 12, 15));
  const [r] = at(PHOTO, 62, 85);
  expect(at(there, 62, 85)).toEqual([255, 128, 0].map((ink) => Math.round(0.5 * ink + 0.5 * r!)));
  // Over another picture only that is computed.
  await pictureAfter(clearing('a', 40), words({ x: 60, y: 80, opacity: 1 }));
  expect(done).toHaveLength(2);
});

test('a frame gives the steps after it another picture, and steps back to the one before', async () => {
  const { done, workshop } = observed();
  const cut = framing('f', { x: 20, y: 10, width: 150, height: 120 });
  const { renderings } = await workshop.replay([clearing('a', 40), cut, clearing('b', 30)], { signal });
  const [, cleared, framed, last] = renderings;
  expect(framed!.source.photo).toEqual({ width: 150, height: 120 });
  expect(last!.source.key).toBe(framed!.source.key);
  // A cut computes nothing, shows what was done before it, and the original in the same frame is the original's.
  expect(done.map((job) => job.kind)).toEqual(['step', 'step']);
  const whole = await framed!.source.crop({ x: 0, y: 0, width: 150, height: 120 });
  const before = await cleared!.source.crop({ x: 20, y: 10, width: 150, height: 120 });
  composePatches(before, { x: 20, y: 10 }, cleared!.patches);
  expect(whole.data).toEqual(before.data);
  const untouched = await framed!.untouched.crop({ x: 0, y: 0, width: 150, height: 120 });
  expect(untouched.data).toEqual(cropImage(PHOTO, { x: 20, y: 10, width: 150, height: 120 }).data);
});

test('a frame that needs no rebuilding has one take, one that does has several', async () => {
  const { workshop } = observed();
  const takesOf = async (step: Step): Promise<number> =>
    (await workshop.makeTakes(workshop.origin, step.type, step.params, 0, { signal, count: 2 })).length;
  expect(await takesOf(framing('f', { x: 20, y: 10, width: 150, height: 120 }))).toBe(1);
  expect(await takesOf(framing('g', { x: -30, y: 0, width: 230, height: 150 }))).toBe(2);
});

test('what a step cleared is taken out of the picture that an earlier step left, in the present frame', async () => {
  const isDisc = (x: number, y: number, at: number) => (x - at) ** 2 + (y - 70) ** 2 < 6 ** 2;
  const photo = pictureOf(200, 150, (x, y) => {
    if (isDisc(x, y, 40)) return [200, 40, 40];
    if (isDisc(x, y, 90)) return [40, 60, 200];
    const value = y % 12 < 2 ? 60 : 150 + (x % 5);
    return [value, value, value];
  });
  const source = createPictureSource(photo, 'discs', kernels);
  const workshop = createWorkshop(source, createInProcessRunner(kernels), createMemoryStore(1e8));
  /** Cut by 20 px on the left and 10 above, the second disc lies at (70, 60). */
  const again = (reads: unknown): Step =>
    parseStep({
      id: 'again',
      type: 'duplicate',
      version: 1,
      params: {
        mark: {
          shapes: [{ kind: 'stroke', combine: 'also', points: [70, 60], radiusPx: 11, hardness: 1, intensity: 1 }],
        },
        placement: { dxPx: 40, dyPx: 0 },
        reads,
        take: { strategy: 'as set', seed: 1 },
      },
    });
  const steps = [clearing('a', 40), clearing('b', 90), framing('f', { x: 20, y: 10, width: 150, height: 120 })];
  const colourAt = async (x: number, reads: unknown): Promise<number> => {
    const last = (await workshop.replay([...steps, again(reads)], { signal })).renderings.at(-1)!;
    const image = await last.source.crop({ x: 0, y: 0, width: 150, height: 120 });
    composePatches(image, { x: 0, y: 0 }, last.patches);
    const i = 4 * (60 * 150 + x);
    return image.data[i + 2]! - image.data[i]!;
  };
  expect(await colourAt(110, { after: 'a' })).toBeGreaterThan(120);
  expect(await colourAt(70, { after: 'a' })).toBeLessThan(30);
  expect(await colourAt(110, 'original')).toBeGreaterThan(120);
  // There is nothing left of it in the picture as it stands, nor is there such a step.
  expect(await colourAt(110, 'present')).toBeLessThan(30);
  expect(await colourAt(110, { after: 'gone' })).toBeLessThan(30);
});
