import { deskContext, greyPatch, lasso, ORIGIN, pending } from '../../../tests/support/desk.ts';
import { FingoError } from '../../core/errors.ts';
import type { Workshop } from '../../engine/workshop.ts';
import { markFromMask } from '../../operations/marks/renderMark.ts';
import { EMPTY_MARK, type Mark } from '../../operations/marks/markSchema.ts';
import { benchActions as actions } from '../state/benchSlice.ts';
import { createMarkingDesk } from './markingDesk.ts';
import type { PictureDesk } from './pictureDesk.ts';
import type { RenderingDesk } from './renderingDesk.ts';
import type { TakesDesk } from './takesDesk.ts';

const NEVER_ABORTED = new AbortController().signal;
/** Runs each search at once. */
const TAKES = { search: (_stage, run) => run(NEVER_ABORTED) } as TakesDesk;
const RENDERINGS = { shown: () => ORIGIN, of: () => ORIGIN } as unknown as RenderingDesk;
/** A subject of 4 x 4 px, wholly found. */
const cutOut: Workshop['cutOut'] = () =>
  Promise.resolve({
    ...greyPatch(255),
    mark: markFromMask({ width: 4, height: 4, data: new Uint8Array(16).fill(255) }, greyPatch(255).rect),
  });
const FOUND: Mark = markFromMask({ width: 40, height: 40, data: new Uint8Array(1600).fill(255) });

function desk(picture: Partial<PictureDesk>) {
  const context = deskContext({ workshop: { cutOut }, picture });
  context.store.dispatch(actions.shapeDrawn(lasso(100)));
  return { ...context, marking: createMarkingDesk(context, RENDERINGS, TAKES) };
}

test('a subject that is found becomes the mark, with some slack around it', async () => {
  const { marking, draft } = desk({});
  await marking.markSubject(lasso(0));
  expect(draft().mark.shapes).toEqual([
    expect.objectContaining({ kind: 'raster', combine: 'startOver', found: 'subject' }),
  ]);
  // By the picture's size: what blurs its rim grows with it.
  expect(draft().mark.growPx).toBe(10);
});

test('more slack than that, once set, stays', async () => {
  const { marking, draft, store } = desk({});
  store.dispatch(actions.markAdjusted({ growPx: 12 }));
  await marking.markSubject({ ...lasso(0), combine: 'also' });
  expect(draft().mark.growPx).toBe(12);
});

test('a shadow joins the mark but is no part of the subject; a reflection is', async () => {
  const found = () => Promise.resolve(FOUND);
  const { marking, draft } = desk({ shadow: found, reflection: found });
  expect(await marking.addShadow()).toBe(true);
  expect([draft().mark.shapes.length, draft().belongsNot?.shapes.length, draft().belongs]).toEqual([2, 1, undefined]);
  expect(await marking.addReflection()).toBe(true);
  expect([draft().mark.shapes.length, draft().belongs?.shapes.length]).toEqual([3, 1]);
  expect(draft().mark.shapes.slice(1)).toMatchObject([{ found: 'shadow' }, { found: 'subject' }]);
});

test('where there is no shadow that is said, and the mark stays as it is', async () => {
  const { marking, draft } = desk({ shadow: () => Promise.resolve(EMPTY_MARK) });
  const before = draft();
  expect(await marking.addShadow()).toBe(false);
  expect(draft()).toBe(before);
});

test('a shadow found for a mark that was changed meanwhile is not added to the new one', async () => {
  const { promise, resolve } = pending<Mark>();
  const { marking, draft, store } = desk({ shadow: () => promise });
  const adding = marking.addShadow();
  store.dispatch(actions.shapeDrawn({ ...lasso(600), combine: 'also' }));
  resolve(FOUND);
  await adding;
  expect(draft().belongsNot).toBeUndefined();
  expect(draft().mark.shapes).toHaveLength(2);
});

test('what has a touched colour is marked as was asked, with the tolerance that is set', async () => {
  const asked: unknown[] = [];
  const reach: PictureDesk['reach'] = (_picture, target, options) => {
    asked.push([target, options]);
    return Promise.resolve(FOUND);
  };
  const { marking, draft, store } = desk({ reach });
  store.dispatch(actions.reachSet({ tolerance: 31, connected: false }));
  await marking.markReach({ x: 5, y: 6 }, 'without');
  expect(asked).toEqual([
    [
      { x: 5, y: 6 },
      { tolerance: 31, connected: false },
    ],
  ]);
  expect(draft().mark.shapes.map(({ combine }) => combine)).toEqual(['startOver', 'without']);
});

test('a colour that cannot be looked for is told, and nothing is marked', async () => {
  const reach = () => Promise.reject(new FingoError('outside-picture', 'Touch a place inside the picture.'));
  const { marking, draft, bench } = desk({ reach });
  await marking.markReach({ x: -5, y: 6 }, 'also');
  expect(bench().trouble).toBe('Touch a place inside the picture.');
  expect(draft().mark.shapes).toHaveLength(1);
});

test('parting a mark tells into how many areas, unless the mark has changed meanwhile', async () => {
  const { promise, resolve } = pending<Mark[]>();
  const { marking, draft, store } = desk({ areas: () => promise });
  const parting = marking.partAreas();
  store.dispatch(actions.shapeDrawn({ ...lasso(600), combine: 'also' }));
  const changed = draft().mark;
  resolve([FOUND, FOUND, FOUND]);
  expect(await parting).toBe(3);
  expect(draft().mark).toBe(changed);
});

test('outside a sphere’s views there is none to go into, which is told', async () => {
  const viewOfMark = () => Promise.reject(new FingoError('nothing-marked', 'Mark something first.'));
  const { marking, bench } = desk({ viewOfMark });
  expect(await marking.goIntoView()).toBe(false);
  expect(bench().trouble).toBe('Mark something first.');
});
