import type { RasterImage } from '../../core/image/rasterImage.ts';
import type { Fixation } from '../../core/measures/gaze.ts';
import type { ThingAtEdge } from '../../core/measures/thingsAtEdge.ts';
import type { Preview } from '../../core/progress.ts';
import type { PixelSource } from '../../engine/pictureSource.ts';
import type { Mark } from '../../operations/marks/markSchema.ts';
import type { MarkOutline } from '../../operations/marks/outlineMark.ts';
import type { Patch, RebuildReport } from '../../operations/computation.ts';
import type { RunOnParams, TakeSpec } from '../../operations/rebuild/rebuildSchema.ts';
import type { Draft } from '../../operations/draft.ts';
import { shapeKey } from '../../operations/draft.ts';

/** The pixels that the Bench shows; replaced as a whole whenever anything in it changes. */
export interface DeskView {
  /** The picture that is worked on, before the step that is open: its frame, and the original in that frame. */
  source: PixelSource;
  untouched: PixelSource;
  /** Everything changed of it so far. */
  base: Patch[];
  /** The earlier picture that the subject is taken out of, in the present frame. */
  read?: { source: PixelSource; patches: Patch[] } | undefined;
  /** The picture in the draft's frame, once a take has been made there. */
  reframed?: { source: PixelSource; key: string } | undefined;
  /** Where the eye goes in what is in sight, in px of it, as long as it is asked for. */
  gaze?: Gaze | undefined;
  /** What touches the picture's sides, once its frame is being set. */
  atEdge?: ThingAtEdge[] | undefined;
  /** Whether another direct view is being made; until it is there, what is shown is something else. */
  isTurning: boolean;
  /** A small picture of what the draft's stretching gives, while it is dragged and until it is there in full. */
  glance?: RasterImage | undefined;
  /** The picture small, for looking at while it is turned. */
  overview?: ImageBitmap | undefined;
  /** What the draft's takes give, by take. */
  takes: ReadonlyMap<string, Patch[]>;
  /** What those takes tell of how they were rebuilt. */
  reports: ReadonlyMap<string, RebuildReport>;
  /** The chosen take at other closeness and light, by `sampleId`. */
  samples: ReadonlyMap<string, Patch[]>;
  /** What was painted beside the mark, and marks among the settings of the draft's kind, by their names. */
  painted: Readonly<Record<string, MarkOutline | undefined>>;
  outline?: MarkOutline;
  /** The mark that `outline` was traced around; another one than the draft's while its own is on the way. */
  outlined?: Mark;
  /** The subject inside the mark, its matte as alpha. */
  cutOut?: Patch;
  /** Its own outline: what lies between it and the mark's is the slack. */
  subject?: MarkOutline;
  /** The lines that run on, drawn by themselves. */
  sketch?: LineSketch | undefined;
  /** A coarse look at the first take while it is being made. */
  preview?: Preview;
}

/** Fixations and what they were found in: the picture before, or the draft's new frame with a take. */
export interface Gaze {
  fixations: Fixation[];
  of: string;
}

/** The lines that run on, and the picture with nothing but them drawn in the mark, for a draft of this fingerprint. */
export interface LineSketch {
  patches: Patch[];
  lines: RunOnParams[];
  of: string;
}

/** What is painted beside the mark. */
export const PAINTINGS = ['donors', 'protect', 'inFront', 'belongs', 'belongsNot'] as const;
export type Painting = (typeof PAINTINGS)[number];

/** What can be set in five steps, each seen before it is chosen. */
export type Setting = 'closeness' | 'light';
export const SETTING_LEVELS = [0, 25, 50, 75, 100] as const;
export const sampleId = (setting: Setting, level: number): string => `${setting}/${level}`;

export const takeId = (spec: TakeSpec): string => `${spec.strategy}/${spec.seed}`;

/** Names what is in sight: the picture as it stands, or the draft's new frame with the chosen take. */
export function gazeOf({ source, base, reframed }: DeskView, draft: Draft): string {
  if (!reframed || reframed.key !== shapeKey(draft)) return `${source.key} ${base.length}`;
  return `${reframed.source.key} ${draft.chosen ? takeId(draft.chosen) : ''}`;
}
