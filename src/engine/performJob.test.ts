import { kernels } from '../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../tests/support/pictures.ts';
import { EMPTY_MARK } from '../operations/marks/markSchema.ts';
import { markFromMask, maskUnder, renderMark } from '../operations/marks/renderMark.ts';
import { createMemo } from './memo.ts';
import { performJob } from './performJob.ts';
import type { CutOutJob, GlanceJob, StepJob } from './protocol.ts';

const [WIDTH, HEIGHT] = [160, 120];
const isDisc = (x: number, y: number) => (x - 80) ** 2 + (y - 60) ** 2 < 20 ** 2;
const grain = noise(5, 6);
const PHOTO = pictureOf(WIDTH, HEIGHT, (x, y) => {
  const g = grain();
  return isDisc(x, y) ? [200 + g, 60 + g, 40 + g] : [120 + g, 140 + g, 130 + g];
});
const MARK = markFromMask(maskOf(WIDTH, HEIGHT, (x, y) => (x - 80) ** 2 + (y - 60) ** 2 < 34 ** 2));
const whole = { rect: { x: 0, y: 0, width: WIDTH, height: HEIGHT }, image: PHOTO };

test('a cut-out is the subject alone, its own pixels under its matte as alpha', async () => {
  const job: CutOutJob = { kind: 'cutOut', subject: { mark: MARK }, photo: PHOTO, region: whole, inputKey: 'k' };
  const { rect, image, mark } = await performJob(job, createMemo(1e8), kernels);
  // The disc spans 61 to 99 in x and 41 to 79 in y; the loose mark reaches 14 px farther.
  expect(Math.abs(rect.x - 61)).toBeLessThanOrEqual(4);
  expect(Math.abs(rect.width - 39)).toBeLessThanOrEqual(8);
  const centre = 4 * ((60 - rect.y) * rect.width + 80 - rect.x);
  expect(image.data[centre + 3]).toBe(255);
  expect(image.data[centre]).toBe(PHOTO.data[4 * (60 * WIDTH + 80)]);
  expect(image.data[3]).toBe(0);
  const { data } = maskUnder(renderMark(mark, PHOTO), whole.rect);
  expect([data[60 * WIDTH + 80], data[60 * WIDTH + 50]]).toEqual([255, 0]);
});

test('a subject that was found before is cut out as it was found, whatever lies beside it in the mark', async () => {
  const found = markFromMask(maskOf(WIDTH, HEIGHT, (x, y) => isDisc(x, y) && y < 60));
  const shapes = found.shapes.map((shape) => ({ ...shape, found: 'subject' as const }));
  const subject = { mark: { ...found, shapes, growPx: 12 } };
  const job: CutOutJob = { kind: 'cutOut', subject, photo: PHOTO, region: whole, inputKey: 'k' };
  const { rect } = await performJob(job, createMemo(1e8), kernels);
  expect(rect).toEqual({ x: 61, y: 41, width: 39, height: 19 });
  // What is drawn beside it adds what stands out there, without the ground.
  const loop = [50, 52, 110, 52, 110, 92, 50, 92];
  const drawn = { ...found, shapes: [...shapes, { kind: 'lasso' as const, combine: 'also' as const, points: loop }] };
  const more = (await performJob({ ...job, subject: { mark: drawn } }, createMemo(1e8), kernels)).rect;
  expect(Math.abs(more.x - 61)).toBeLessThanOrEqual(3);
  expect(Math.abs(more.y + more.height - 80)).toBeLessThanOrEqual(3);
  // What a hand says of it corrects it.
  const points = [70, 70, 90, 70];
  const stroke = { kind: 'stroke', combine: 'startOver', points, radiusPx: 6, hardness: 1, intensity: 1 } as const;
  const corrected = { ...subject, belongs: { ...EMPTY_MARK, shapes: [stroke] } };
  const again = await performJob({ ...job, subject: corrected }, createMemo(1e8), kernels);
  expect(again.rect.y + again.rect.height).toBeGreaterThan(66);
});

test('a glance is the look stretched at its own scale, what is kept in shape', async () => {
  const photo = { width: 4 * WIDTH, height: 4 * HEIGHT };
  const around = [200, 120, 440, 120, 440, 360, 200, 360];
  const keep = { ...EMPTY_MARK, shapes: [{ kind: 'lasso', combine: 'startOver', points: around }] };
  const params = { width: 4 * 200, height: photo.height, keep, take: { strategy: 'as it is', seed: 1 } };
  const job: GlanceJob = { kind: 'glance', type: 'stretch', params, photo, look: PHOTO };
  const { image } = await performJob(job, createMemo(1e8), kernels);
  expect(image).toMatchObject({ width: 200, height: HEIGHT });
  const isRed = (x: number): boolean => {
    const i = 4 * (60 * image.width + x);
    return image.data[i]! - image.data[i + 1]! > 70;
  };
  const reds = Array.from({ length: image.width }, (_, x) => x).filter(isRed).length;
  expect(Math.abs(reds - 39)).toBeLessThanOrEqual(1);
});

test('placing a subject anew re-uses the rebuilt old place and the matte', async () => {
  const memo = createMemo(1e8);
  const stagesOf = async (dxPx: number): Promise<string[]> => {
    const stages: string[] = [];
    const job: StepJob = {
      kind: 'step',
      type: 'move',
      params: { mark: MARK, take: { strategy: 'large pieces', seed: 1 }, placement: { dxPx, dyPx: 0 } },
      photo: PHOTO,
      regions: [
        whole,
        { rect: { x: 84, y: 20, width: 76, height: 80 }, image: pictureOf(76, 80, () => [120, 140, 130]) },
      ],
      inputKey: 'k',
      alone: true,
    };
    await performJob(job, memo, kernels, { onProgress: ({ stage }) => void stages.push(stage) });
    return stages;
  };
  expect(await stagesOf(40)).toContain('Matching patches');
  expect(await stagesOf(41)).toEqual(['Placing the subject']);
});

test('parameters that do not fit are refused', async () => {
  const job: StepJob = {
    kind: 'step',
    type: 'clear',
    params: { mark: MARK },
    photo: PHOTO,
    regions: [whole],
    inputKey: 'k',
    alone: true,
  };
  await expect(performJob(job, createMemo(1e8), kernels)).rejects.toThrow(/take/);
});
