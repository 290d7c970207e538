import type { PixelSource } from '../../../engine/pictureSource.ts';
import { markFromMask } from '../../../operations/marks/renderMark.ts';
import type { MarkOutline } from '../../../operations/marks/outlineMark.ts';
import type { PlacementParams } from '../../../operations/rebuild/rebuildSchema.ts';
import { onGround } from './onGround.ts';

// A thing 80 px high whose foot is at 300, centre at 260.
const mask = new Uint8Array(400 * 400);
for (let y = 220; y < 300; y++) mask.fill(255, 400 * y + 100, 400 * y + 140);
const MARK = markFromMask({ width: 400, height: 400, data: mask });
const VIEW = {
  source: { photo: { width: 400, height: 400 } } as PixelSource,
  outline: { box: { x: 100, y: 220, width: 40, height: 80 } } as MarkOutline,
};
const placed = (placement: Partial<PlacementParams>): PlacementParams => ({
  dxPx: 0,
  dyPx: 0,
  scale: 1,
  turn: 0,
  mirror: 'none',
  ...placement,
});

test('a horizon that comes after the placing makes a thing as large as things are where its foot is', () => {
  const ground = onGround(MARK, placed({ dxPx: 30, dyPx: -100 }), VIEW, 100)!;
  expect(ground.from).toEqual({ dxPx: 30, dyPx: -100 });
  // Half way to the horizon; its foot stays at 200: 260 - 80 + half of 40.
  expect(ground.settle(ground.from)).toEqual({ dxPx: 30, dyPx: -80, scale: 0.5 });
});

test('from there its foot is nudged on, not its middle', () => {
  const ground = onGround(MARK, placed({ dxPx: 30, dyPx: -80, scale: 0.5 }), VIEW, 100)!;
  expect(ground.from).toEqual({ dxPx: 30, dyPx: -100 });
  expect(ground.settle({ dxPx: 30, dyPx: -50 }).scale).toBe(0.75);
});

test('without a horizon, and before the mark is measured, nothing follows the ground', () => {
  expect(onGround(MARK, placed({}), VIEW, undefined)).toBeUndefined();
  expect(onGround(MARK, placed({}), { source: VIEW.source }, 100)).toBeUndefined();
});
