import { ColourModel } from './colourModel.ts';

/** The middle of a bin of 16 levels. */
const middle = (bin: number): number => 16 * bin + 8;

test('the share of a colour is that of what was added, by weight', () => {
  const model = new ColourModel();
  model.add(middle(3), middle(4), middle(5), 3);
  model.add(middle(9), middle(9), middle(9), 1);
  expect(Math.exp(model.logShare(middle(3), middle(4), middle(5)))).toBeCloseTo(0.75, 3);
  expect(Math.exp(model.logShare(middle(9), middle(9), middle(9)))).toBeCloseTo(0.25, 3);
});

test('a colour near a seen one counts in part, the less the farther away', () => {
  const model = new ColourModel();
  model.add(middle(8), middle(8), middle(8), 1);
  const shareAt = (off: number): number => Math.exp(model.logShare(middle(8) + off, middle(8), middle(8)));
  expect(shareAt(4)).toBeCloseTo(0.75, 3);
  expect(shareAt(-8)).toBeCloseTo(0.5, 3);
  expect(shareAt(16)).toBeLessThan(0.001);
});

test('a colour never seen is rare, not impossible', () => {
  const model = new ColourModel();
  model.add(middle(2), middle(2), middle(2), 100);
  const rarest = model.logShare(middle(13), middle(13), middle(13));
  expect(rarest).toBeCloseTo(Math.log(1e-4), 1);
  expect(new ColourModel().logShare(0, 0, 0)).toBeLessThanOrEqual(0);
});

test('black and white count as the nearest bins do', () => {
  const model = new ColourModel();
  model.add(0, 0, 0, 1);
  model.add(255, 255, 255, 1);
  expect(Math.exp(model.logShare(0, 0, 0))).toBeGreaterThan(0.05);
  expect(model.logShare(-20, 0, 0)).toBeCloseTo(model.logShare(0, 0, 0), 9);
  expect(model.logShare(300, 255, 255)).toBeCloseTo(model.logShare(255, 255, 255), 1);
});
