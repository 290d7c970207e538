import { operationOf } from '../../../operations/catalogue.ts';
import { parseStep, type Step } from '../../../operations/recipe.ts';
import type { Draft } from '../../../storage/projectSchema.ts';
import { draftOfStep, EMPTY_DRAFT, fingerprint, isStretched, paramsOf, shapeKey, whatIsMissing } from './draft.ts';

const square = (at: number) => ({
  shapes: [{ kind: 'lasso' as const, combine: 'startOver' as const, points: [at, at, at + 80, at, at + 80, at + 80] }],
});
const corner = (x: number, y: number) => ({ x, y });
/** Everything that a step which rebuilds can tell, none of it as it is by itself. */
const common = {
  mark: square(10),
  donors: square(200),
  protect: square(50),
  planes: [{ corners: [corner(0, 0), corner(9, 0), corner(9, 9), corner(0, 9)], on: false }],
  closeness: 75,
};
const placing = {
  ...common,
  light: 25,
  placement: { dxPx: 30, dyPx: -5, scale: 1.5, turn: 0.2, mirror: 'horizontal' },
  withShadow: false,
  shadowStrength: 140,
  horizonPx: 120,
  inFront: square(300),
  belongs: square(20),
  belongsNot: square(40),
};
const PARAMS: Record<string, object> = {
  clear: { ...common, light: 40 },
  move: placing,
  duplicate: { ...placing, reads: { after: 'earlier' } },
  lengthen: { ...common, by: { dxPx: 5, dyPx: 60 } },
  borrow: { ...common, light: 60, from: { dxPx: -90, dyPx: 4 } },
  reframe: {
    ...common,
    mark: undefined,
    light: 30,
    frame: { rect: { x: -20, y: 0, width: 500, height: 400 } },
    sides: ['left'],
    rimPx: 9,
    passes: 2,
  },
  stretch: { keep: square(60), width: 700, height: 400, part: { left: 0.25, top: 0, right: 1, bottom: 1 } },
};
const stepOf = (type: string): Step => {
  const take = { strategy: operationOf(type).strategies[0]!, seed: 3 };
  return parseStep({ id: 'a', type, version: operationOf(type).version, params: { ...PARAMS[type], take } });
};

test.each(Object.keys(PARAMS))('a step "%s" that is opened again and used gives the very same step', (type) => {
  const step = stepOf(type);
  const draft = draftOfStep(step);
  expect(draft.editing).toBe('a');
  expect(draft.what).toBe(type);
  expect(paramsOf(draft)).toEqual(step.params);
});

test('takes belong to all that changes them, and not to which of them is chosen', () => {
  const draft = draftOfStep(stepOf('duplicate'));
  const now = fingerprint(draft);
  expect(fingerprint({ ...draft, chosen: { strategy: 'another', seed: 9 } })).toBe(now);
  const changes: Partial<Draft>[] = [
    { what: 'move' },
    { mark: { ...draft.mark, growPx: 3 } },
    { closeness: 10 },
    { placedLight: 0 },
    { withShadow: true },
    { shadowStrength: 100 },
    { planes: [] },
    { placement: { ...draft.placement, dxPx: 31 } },
  ];
  const others = changes.map((change) => fingerprint({ ...draft, ...change }));
  expect(new Set([now, ...others]).size).toBe(changes.length + 1);
});

test('what is missing is told one thing after the other', () => {
  const { mark, placement } = draftOfStep(stepOf('move'));
  expect(whatIsMissing(EMPTY_DRAFT)).toMatch(/Mark something/);
  expect(whatIsMissing({ ...EMPTY_DRAFT, mark })).toMatch(/Choose what/);
  expect(whatIsMissing({ ...EMPTY_DRAFT, mark, what: 'clear' })).toBeUndefined();
  expect(whatIsMissing({ ...EMPTY_DRAFT, mark, what: 'move' })).toMatch(/Drag the marked subject/);
  expect(whatIsMissing({ ...EMPTY_DRAFT, mark, what: 'borrow' })).toMatch(/place it should be remade from/);
  expect(whatIsMissing({ ...EMPTY_DRAFT, mark, what: 'move', placement })).toBeUndefined();
});

test('only what gives the picture another size or shape has to be carried over', () => {
  const stretch = draftOfStep(stepOf('stretch'));
  expect(isStretched(stretch, { width: 700, height: 400 })).toBe(false);
  expect(isStretched(stretch, { width: 600, height: 400 })).toBe(true);
  expect(shapeKey(draftOfStep(stepOf('clear')))).toBeUndefined();
  // Protecting something makes other paths through the picture.
  expect(shapeKey({ ...stretch, protect: undefined } as unknown as Draft)).not.toBe(shapeKey(stretch));
});
