import { createViewControl, type ViewControl } from './viewControl.ts';
import { photoToScreen } from './viewport.ts';

const PHOTO = { x: 0, y: 0, width: 3000, height: 2000 };
let view: ViewControl;

beforeEach(() => {
  Object.assign(globalThis, { devicePixelRatio: 2 });
  view = createViewControl(PHOTO);
  view.resize({ width: 900, height: 700 });
});

const middleOf = () => {
  const { width, height } = view.screen();
  const { scale, x, y } = view.get();
  return { x: x + width / 2 / scale, y: y + height / 2 / scale };
};

test('a photo is fitted when first shown, and again when the panels fold, as long as it has not been moved', () => {
  const small = view.get().scale;
  view.resize({ width: 1200, height: 700 });
  expect(view.get().scale).toBeGreaterThan(small);
  expect(middleOf().x).toBeCloseTo(1500, 6);
});

test('once zoomed in, folding the panels keeps scale and middle', () => {
  view.zoomBy(3);
  const { scale } = view.get();
  const middle = middleOf();
  view.resize({ width: 1200, height: 760 });
  expect(view.get().scale).toBe(scale);
  expect(middleOf().x).toBeCloseTo(middle.x, 6);
  expect(middleOf().y).toBeCloseTo(middle.y, 6);
});

test('100 % is one photo pixel on one device pixel, with the place asked for in the middle', () => {
  view.actualPixels({ x: 700, y: 1500 });
  expect(view.get().scale).toBe(0.5);
  const at = photoToScreen(view.get(), { x: 700, y: 1500 });
  expect([at.x, at.y]).toEqual([450, 350]);
});

test('whoever watches is told of each change until it stops watching', () => {
  let told = 0;
  const stop = view.subscribe(() => told++);
  view.panBy(5, 5);
  view.fit();
  stop();
  view.fit();
  expect(told).toBe(2);
});
