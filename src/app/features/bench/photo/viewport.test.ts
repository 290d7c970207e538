import { fitView, panView, photoToScreen, screenToPhoto, zoomView } from './viewport.ts';

const PHOTO = { x: 0, y: 0, width: 6000, height: 4000 };
const SCREEN = { width: 800, height: 700 };

test('fit shows the whole photo in the middle, and never enlarges a small one', () => {
  const view = fitView(PHOTO, SCREEN, 1);
  const [topLeft, bottomRight] = [photoToScreen(view, { x: 0, y: 0 }), photoToScreen(view, { x: 6000, y: 4000 })];
  expect(topLeft.x).toBeCloseTo(800 - bottomRight.x, 6);
  expect(topLeft.y).toBeCloseTo(700 - bottomRight.y, 6);
  expect(topLeft.x).toBeGreaterThanOrEqual(0);
  expect(fitView({ x: 0, y: 0, width: 10, height: 10 }, SCREEN, 2).scale).toBe(0.5);
});

test('zooming keeps the point under the pointer where it is', () => {
  let view = fitView(PHOTO, SCREEN, 1);
  const pointer = { x: 321, y: 400 };
  const under = screenToPhoto(view, pointer);
  for (const factor of [1.3, 2, 0.7]) view = zoomView(view, factor, pointer, PHOTO, SCREEN);
  const after = photoToScreen(view, under);
  expect(after.x).toBeCloseTo(pointer.x, 6);
  expect(after.y).toBeCloseTo(pointer.y, 6);
});

test('zoom has an end on both sides', () => {
  let view = fitView(PHOTO, SCREEN, 1);
  for (let i = 0; i < 100; i++) view = zoomView(view, 1.5, { x: 400, y: 350 }, PHOTO, SCREEN);
  expect(view.scale).toBe(16);
  for (let i = 0; i < 100; i++) view = zoomView(view, 0.5, { x: 400, y: 350 }, PHOTO, SCREEN);
  expect(view.scale * 6000).toBeGreaterThan(300);
});

test('however far it is panned, some of the photo stays in sight', () => {
  for (const [dx, dy] of [
    [1e6, 0],
    [-1e6, 1e6],
    [0, -1e6],
  ] as const) {
    const view = panView(fitView(PHOTO, SCREEN, 1), dx, dy, PHOTO, SCREEN);
    const [a, b] = [photoToScreen(view, { x: 0, y: 0 }), photoToScreen(view, { x: 6000, y: 4000 })];
    expect(a.x).toBeLessThanOrEqual(740);
    expect(a.y).toBeLessThanOrEqual(640);
    expect(b.x).toBeGreaterThanOrEqual(59.9);
    expect(b.y).toBeGreaterThanOrEqual(59.9);
  }
});
