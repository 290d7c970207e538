import {
  draftOfStep,
  draftSchema,
  EMPTY_DRAFT,
  fingerprint,
  nextDraft,
  paramsOf,
  shapeKey,
  whatIsMissing as missingOn,
  withKind,
  type Draft,
} from './draft.ts';
import { KINDS, kindOf, type AnyChange } from './kinds.ts';
import { parseStep, type Step } from './recipe.ts';

const PHOTO = { width: 600, height: 400 };
const whatIsMissing = (draft: Draft) => missingOn(draft, PHOTO);
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
  runOn: [{ points: [corner(0, 4), corner(9, 5)], widthsPx: [2, 3] as const, on: false }],
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
  strokeClear: { ...common, light: 70 },
  refine: { ...common, light: 90 },
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
  enlarge: { width: 1200, height: 800 },
  text: {
    text: 'Kiln open',
    face: 'Lora',
    align: 'right',
    lineHeight: 1.5,
    outline: 'M0 0L500 0L500 700Z',
    block: { width: 500, height: 1200 },
    x: -3,
    y: 40,
    sizePx: 33,
    colour: '#1030e0',
    opacity: 0.4,
    behind: square(15),
  },
  turnSphere: { yaw: 5, pitch: -2, roll: 1 },
  stretch: { keep: square(60), width: 700, height: 400, part: { left: 0.25, top: 0, right: 1, bottom: 1 } },
};
const stepOf = (type: string): Step => {
  const take = { strategy: kindOf(type).strategies[0]!, seed: 3 };
  return parseStep({ id: 'a', type, version: kindOf(type).version, params: { ...PARAMS[type], take } });
};

test.each(KINDS.map(({ type }) => type))(
  'a step "%s" that is opened again and used gives the very same step',
  (type) => {
    const step = stepOf(type);
    const draft = draftOfStep(step);
    expect(draft.editing).toBe('a');
    expect(draft.change!.kind).toBe(type);
    expect(paramsOf(draft)).toEqual(step.params);
    // So it does after having been stored.
    expect(draftSchema.parse(structuredClone(draft))).toEqual(draft);
  },
);

test('takes belong to all that changes them, and not to which of them is chosen', () => {
  const draft = draftOfStep(stepOf('duplicate'));
  const now = fingerprint(draft);
  expect(fingerprint({ ...draft, chosen: { strategy: 'another', seed: 9 } })).toBe(now);
  const own = (change: object) => ({ change: { ...draft.change, ...change } as AnyChange });
  const changes: Partial<Draft>[] = [
    own({ kind: 'move' }),
    { mark: { ...draft.mark, growPx: 3 } },
    { closeness: 10 },
    own({ light: 0 }),
    own({ withShadow: true }),
    own({ shadowStrength: 100 }),
    { planes: [] },
    { runOn: [] },
    own({ placement: { ...placing.placement, dxPx: 31 } }),
  ];
  const others = changes.map((change) => fingerprint({ ...draft, ...change }));
  expect(new Set([now, ...others]).size).toBe(changes.length + 1);
});

test('what is missing is told one thing after the other', () => {
  const moved = draftOfStep(stepOf('move'));
  const marked = { ...EMPTY_DRAFT, mark: moved.mark };
  expect(whatIsMissing(EMPTY_DRAFT)).toMatch(/Mark something/);
  expect(whatIsMissing(marked)).toMatch(/Choose what/);
  expect(whatIsMissing(withKind(marked, 'clear', PHOTO))).toBeUndefined();
  expect(whatIsMissing(withKind(marked, 'move', PHOTO))).toMatch(/Drag the marked subject/);
  expect(whatIsMissing(withKind(marked, 'borrow', PHOTO))).toMatch(/place it should be remade from/);
  expect(whatIsMissing({ ...marked, change: moved.change })).toBeUndefined();
  const stretched = draftOfStep(stepOf('stretch'));
  expect(whatIsMissing(stretched)).toBeUndefined();
  expect(missingOn(stretched, { width: 700, height: 400 })).toMatch(/give a size/);
});

test('only what gives the picture another size or shape has to be carried over', () => {
  const stretch = draftOfStep(stepOf('stretch'));
  expect(shapeKey(draftOfStep(stepOf('clear')))).toBeUndefined();
  expect(shapeKey(stretch)).toBeDefined();
  // Protecting something makes other paths through the picture.
  expect(shapeKey({ ...stretch, protect: undefined })).not.toBe(shapeKey(stretch));
});

test('the next place begins with the same thing happening and its settings, but for the place', () => {
  const next = nextDraft(draftOfStep(stepOf('duplicate')));
  expect(next).toMatchObject({ closeness: 75, protect: { shapes: [{}] }, mark: { shapes: [] }, takes: [] });
  expect(next.change).toMatchObject({ kind: 'duplicate', light: 25, shadowStrength: 140, horizonPx: 120 });
  expect(next.change).toMatchObject({ placement: { dxPx: 0, dyPx: 0, scale: 1, turn: 0, mirror: 'none' } });
  expect(next.change).not.toHaveProperty('reads');
  // What begins with a button of its own does not go on by itself.
  expect(nextDraft(draftOfStep(stepOf('refine'))).change).toBeUndefined();
});

/** A draft as it was kept when the settings of all kinds lay side by side. */
const FLAT = {
  mark: { shapes: [], growPx: 2, smoothPx: 0, featherPx: 0 },
  waiting: [],
  placement: { dxPx: 40, dyPx: 7, scale: 2, turn: 0, mirror: 'none' },
  closeness: 60,
  rebuiltLight: 80,
  placedLight: 15,
  withShadow: false,
  shadowStrength: 120,
  horizonPx: 33,
  takes: [{ spec: { strategy: 'large pieces', seed: 1 }, rank: 2, round: 0, setAside: false }],
  takesFor: 'old',
};

test('drafts of the first form keep everything that they say', () => {
  const common = { mark: { growPx: 2 }, closeness: 60, light: 80, takes: [{ rank: 2 }] };
  expect(draftSchema.parse(FLAT)).toMatchObject(common);
  expect(draftSchema.parse(FLAT).change).toBeUndefined();
  const ownOfFlat = (change: object) => draftSchema.parse({ ...FLAT, ...change }).change;
  const placed = { placement: FLAT.placement, light: 15, withShadow: false, shadowStrength: 120, horizonPx: 33 };
  expect(ownOfFlat({ what: 'clear' })).toEqual({ kind: 'clear' });
  expect(ownOfFlat({ what: 'move' })).toEqual({ kind: 'move', ...placed });
  expect(ownOfFlat({ what: 'duplicate', reads: 'original' })).toMatchObject({ ...placed, reads: 'original' });
  expect(ownOfFlat({ what: 'lengthen' })).toEqual({ kind: 'lengthen', by: { dxPx: 40, dyPx: 7 } });
  expect(ownOfFlat({ what: 'borrow' })).toEqual({ kind: 'borrow', from: { dxPx: 40, dyPx: 7 } });
  const frame = { turn: 0, pitch: 0, yaw: 0, focal: 1, rect: { x: 0, y: 0, width: 9, height: 9 } };
  const reframe = { frame, sides: ['left'], rimPx: 3, passes: 2 };
  expect(ownOfFlat({ what: 'reframe', reframe })).toEqual({ kind: 'reframe', ...reframe });
  const stretch = { width: 90, height: 60, part: { left: 0, top: 0, right: 1, bottom: 0.5 } };
  expect(ownOfFlat({ what: 'stretch', stretch })).toEqual({ kind: 'stretch', ...stretch });
  const { behind: _, ...text } = PARAMS.text as { behind: object };
  expect(ownOfFlat({ what: 'text', text })).toEqual({ kind: 'text', ...text });
});

test('a draft of a kind that is not known, or with settings that make no sense, is refused', () => {
  const draft = structuredClone(draftOfStep(stepOf('move')));
  expect(draftSchema.safeParse({ ...draft, change: { kind: 'gild' } }).success).toBe(false);
  expect(draftSchema.safeParse({ ...draft, change: { ...draft.change, shadowStrength: 900 } }).success).toBe(false);
});
