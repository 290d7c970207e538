import type { ComponentType } from 'react';
import type { Affine } from '../../../core/image/affine.ts';
import type { Rect, Size } from '../../../core/image/rect.ts';
import type { Draft } from '../../../operations/draft.ts';
import type { Desk } from '../../desk/desk.ts';
import type { DeskView } from '../../desk/deskView.ts';
import type { PhotoState } from '../../state/benchSlice.ts';
import type { MarkTool } from '../../state/benchState.ts';
import type { AppStore } from '../../store/store.ts';
import type { LookControl } from './around/lookControl.ts';
import type { Gesture } from './gestures/gesture.ts';
import type { KindPainter } from './photo/scene.ts';
import type { ViewControl } from './photo/viewControl.ts';
import type { Point } from './photo/viewport.ts';

/** What the hand on the photo works with. */
export interface HandInput {
  draft: Draft;
  desk: Desk;
  deskView: DeskView;
  bench: PhotoState;
  view: ViewControl;
  store: AppStore;
  /** Whether a screen point lies on what is marked, at its old or its new place. */
  isOnMark(screenPoint: Point): boolean;
}

/** What the hand does on the photo for one kind of step. */
export interface KindHand {
  /** The gesture that begins at a point; "pan" where the photo is moved; undefined where a mark is drawn. */
  begin(at: Point, screenPoint: Point, input: HandInput): Gesture | 'pan' | undefined;
  cursor?(screenPoint: Point, at: Point, input: HandInput): string | undefined;
  /** An arrow key: moves what is being placed by so many px; false where nothing is. */
  nudge?(direction: Point, stepPx: number, input: HandInput): boolean;
  /** Where the marked thing goes; it can be taken hold of there, too. */
  goesTo?(draft: Draft, photo: Size): Affine | undefined;
  /** How much of the picture's surroundings is to be in sight. */
  room?(draft: Draft, photo: Size): Rect | undefined;
}

/** A way of drawing on the photo that is a kind of step at once. */
export interface KindTool {
  tool: MarkTool & `kind ${string}`;
  label: string;
  key: string;
  hint: string;
  begin(at: Point, input: HandInput): Gesture;
}

/** One kind of step as it is seen and worked on; everything is optional but its name. */
export interface KindView {
  type: string;
  /** A small drawing of what it does, among the choices of what happens. */
  Drawing?: ComponentType;
  /** Under the choices: how it lies, from where, what to do. */
  Fields?: ComponentType;
  /** How it is rebuilt, in place of what most kinds have there; and that in one line. */
  Rebuild?: ComponentType;
  rebuildLine?(draft: Draft): string;
  /** A card of its own, in place of mark, what happens, how it is rebuilt. */
  Card?: ComponentType;
  /** What it is called among the ways of its job. */
  way?: string;
  /** The button that uses it as it is. */
  useLabel?: string;
  /** Under the takes of any kind: what leads from there to this one. */
  AfterTakes?: ComponentType<{ canUse: boolean }>;
  /** While one looks around in a sphere. */
  around?: {
    Section: ComponentType<AroundProps>;
    /** What a line means that is drawn on what is looked at. */
    drawn(from: Point, to: Point, looking: AroundProps['look'], screen: Size, store: AppStore): void;
  };
  tool?: KindTool;
  hand?: KindHand;
  paint?: KindPainter;
}

export interface AroundProps {
  look: LookControl;
  lineWanted: boolean;
  onLineWanted(wanted: boolean): void;
}
