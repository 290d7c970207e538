import { createDeskContext, type DeskContext } from '../../src/app/desk/deskContext.ts';
import type { PictureDesk } from '../../src/app/desk/pictureDesk.ts';
import { benchActions, benchSlice } from '../../src/app/state/benchSlice.ts';
import { createAppStore } from '../../src/app/store/store.ts';
import type { Patch, StepResult } from '../../src/operations/computation.ts';
import type { PixelSource } from '../../src/engine/pictureSource.ts';
import type { Rendering, Workshop } from '../../src/engine/workshop.ts';
import type { MarkShape } from '../../src/operations/marks/markSchema.ts';
import type { Project } from '../../src/storage/projectSchema.ts';
import { projectOf } from './project.ts';

/** What must not be asked for in a test. */
const refuse = (what: string) => () => {
  throw new Error(`Nothing stands in for "${what}" here.`);
};

function standingIn<Real extends object>(parts: Partial<Real>): Real {
  return new Proxy(parts as Real, {
    get: (target, key) => (key in target ? target[key as keyof Real] : refuse(String(key))),
  });
}

export const SOURCE = standingIn<PixelSource>({ key: 'quay', photo: { width: 2400, height: 1600 } });
export const ORIGIN: Rendering = { key: 'quay', source: SOURCE, patches: [], untouched: SOURCE, earlier: new Map() };

/** An even patch of this grey, as what a take gives. */
export const greyPatch = (grey: number): Patch => ({
  rect: { x: 10, y: 10, width: 4, height: 4 },
  image: { width: 4, height: 4, data: new Uint8ClampedArray(64).fill(grey) },
});
export const resultOf = (grey: number, rank: number): StepResult => ({ patches: [greyPatch(grey)], rank, timings: {} });

/** A triangle of 200 px from (at, at) on. */
export const lasso = (at: number): MarkShape => ({
  kind: 'lasso',
  combine: 'startOver',
  points: [at, at, at + 200, at, at + 200, at + 200],
});

/** A desk's context around a project, with stand-ins for what computes and what holds the pixels. */
export function deskContext(
  { workshop = {}, picture = {} }: { workshop?: Partial<Workshop>; picture?: Partial<PictureDesk> },
  project: Project = projectOf(),
): DeskContext {
  const store = createAppStore();
  store.bringIn(benchSlice);
  store.dispatch(benchActions.projectOpened(project));
  return createDeskContext(
    store,
    standingIn<PictureDesk>({ source: SOURCE, ...picture }),
    standingIn<Workshop>({ origin: ORIGIN, ...workshop }),
  );
}

/** A promise with its handles. */
export function pending<Value>(): {
  promise: Promise<Value>;
  resolve: (value: Value) => void;
  reject: (error: unknown) => void;
} {
  let resolve!: (value: Value) => void;
  let reject!: (error: unknown) => void;
  const promise = new Promise<Value>((yes, no) => {
    resolve = yes;
    reject = no;
  });
  return { promise, resolve, reject };
}

/** Lets what waits for nothing but promises run. */
export const settle = async (): Promise<void> => {
  for (let k = 0; k < 20; k++) await Promise.resolve();
};
