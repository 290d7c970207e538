import { rotationAbout } from '../../../core/panorama/camera.ts';
import type { StitchReport } from '../../../engine/stitchReport.ts';
import { stitchActions as actions, stitchSlice, type StitchState } from './stitchSlice.ts';

type Action = Parameters<typeof stitchSlice.reducer>[1];
const after = (state: StitchState, ...list: Action[]): StitchState => list.reduce(stitchSlice.reducer, state);
const FRAMES = ['a', 'b', 'c'].map((id) => ({ id, name: `${id}.jpg` }));
const CROP = { x: 5, y: 6, width: 700, height: 300 };
const STROKE = { frame: 1, path: [[0, 0, 1] as const], radiusRad: 0.1 };
const laidOut = after(
  stitchSlice.getInitialState(),
  actions.framesAdded(FRAMES),
  actions.framesUnderstood({ order: [2, 0, 1] } as unknown as StitchReport),
);

test('frames come one after the other, are left out and swapped; what was found about the former is forgotten', () => {
  expect(laidOut.report).toBeDefined();
  expect(laidOut.pulledFrame).toBe(2);
  const fewer = after(laidOut, actions.framesKept(['a', 'c']));
  expect(fewer.frames.map(({ id }) => id)).toEqual(['a', 'c']);
  expect(fewer.report).toBeUndefined();
  expect(after(fewer, actions.framesSwapped()).frames.map(({ id }) => id)).toEqual(['c', 'a']);
});

test('choices are undone and redone one by one; a new one after undo forgets those undone', () => {
  const chosen = after(laidOut, actions.projectionChosen('planar'), actions.pulled(STROKE));
  const back = after(chosen, actions.undone());
  expect(back.settings).toMatchObject({ projection: 'planar', pulled: [] });
  expect(after(back, actions.redone()).settings).toEqual(chosen.settings);
  const other = after(back, actions.projectionChosen('spherical'));
  expect(after(other, actions.redone())).toEqual(other);
  expect(after(other, actions.undone(), actions.undone()).settings.projection).toBe('auto');
  expect(after(laidOut, actions.undone())).toEqual(laidOut);
});

test('dragging a crop is one undo, however far it goes; the next drag is another', () => {
  const dragged = after(
    laidOut,
    actions.cropped({ ...CROP, width: 800 }),
    actions.cropped({ ...CROP, width: 750 }),
    actions.gestureEnded(),
    actions.cropped(CROP),
  );
  const once = after(dragged, actions.undone());
  expect(once.crop).toEqual({ ...CROP, width: 750 });
  expect(after(once, actions.undone()).crop).toBeUndefined();
});

test('another layout drops the crop, whose px it does not have; pulling a frame in front keeps it', () => {
  const cropped = after(laidOut, actions.cropped(CROP));
  expect(after(cropped, actions.pulled(STROKE)).crop).toEqual(CROP);
  expect(after(cropped, actions.projectionChosen('planar')).crop).toBeUndefined();
});

test('turns add up, and are dropped together', () => {
  const tenth = rotationAbout(0, 0, 0.1);
  const twice = after(laidOut, actions.turned(tenth), actions.turned(tenth));
  const at = Math.atan2(twice.settings.turn[3], twice.settings.turn[0]);
  expect(Math.abs(at)).toBeCloseTo(0.2, 9);
  expect(after(twice, actions.turnDropped()).settings.turn).toEqual(laidOut.settings.turn);
});

test('what was on the screen when the page was left is there again, without a way to undo it', () => {
  const settings = { ...laidOut.settings, projection: 'planar' as const };
  const back = after(
    stitchSlice.getInitialState(),
    actions.broughtBack({ frames: FRAMES, settings, crop: CROP }),
    actions.undone(),
  );
  expect(back).toMatchObject({ frames: FRAMES, settings, crop: CROP });
});
