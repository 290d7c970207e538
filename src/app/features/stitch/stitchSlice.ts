import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { multiplyHomographies } from '../../../core/geometry/homography.ts';
import type { Rect } from '../../../core/image/rect.ts';
import { NO_TURN, type Rotation } from '../../../core/panorama/camera.ts';
import type { ProjectionChoice } from '../../../core/panorama/layOut.ts';
import type { PanoramaSettings, PulledStroke } from '../../../engine/panoramaPlan.ts';
import type { StitchReport } from '../../../engine/stitchReport.ts';

const MAX_UNDO = 40;

/** What the hand on the panorama does. */
export type StitchHand = 'crop' | 'line' | 'pull';

interface Choices {
  settings: PanoramaSettings;
  /** Px of the projection; undefined: all that any frame covers. */
  crop: Rect | undefined;
}

export interface StitchState extends Choices {
  frames: { id: string; name: string }[];
  /** About the frames as they are now; undefined while it is being found out. */
  report: StitchReport | undefined;
  work: { stage: string; share: number };
  trouble: string;
  hand: StitchHand;
  seamsShown: boolean;
  /** The frame that is pulled in front. */
  pulledFrame: number;
  pullRadiusPx: number;
  past: Choices[];
  future: Choices[];
  gesture: string;
}

const untouched: Choices = { settings: { projection: 'auto', turn: NO_TURN, pulled: [] }, crop: undefined };

const initialState: StitchState = {
  ...untouched,
  frames: [],
  report: undefined,
  work: { stage: '', share: 0 },
  trouble: '',
  hand: 'crop',
  seamsShown: false,
  pulledFrame: 0,
  pullRadiusPx: 120,
  past: [],
  future: [],
  gesture: '',
};

const choicesOf = ({ settings, crop }: Choices): Choices => ({ settings, crop });

/** Other choices, with the former ones one undo away; those of one unbroken gesture share an entry. */
function choose(state: StitchState, choices: Partial<Choices>, gesture = ''): StitchState {
  const goesOn = gesture !== '' && state.gesture === gesture;
  const past = goesOn ? state.past : [...state.past, choicesOf(state)].slice(-MAX_UNDO);
  return { ...state, ...choices, past, future: goesOn ? state.future : [], gesture };
}

const withSettings = (state: StitchState, settings: Partial<PanoramaSettings>): Partial<Choices> => ({
  settings: { ...state.settings, ...settings },
  // Another layout has other px.
  ...('pulled' in settings ? {} : { crop: undefined }),
});

/** Other frames: what was found and chosen about the former ones means nothing any more. */
const withFrames = (state: StitchState, frames: StitchState['frames']): StitchState => ({
  ...initialState,
  seamsShown: state.seamsShown,
  frames,
});

/** The state of the Stitch screen. Files and pixels are elsewhere (the stitch desk). */
export const stitchSlice = createSlice({
  name: 'stitch',
  initialState,
  reducers: {
    framesAdded: (state: StitchState, { payload }: PayloadAction<StitchState['frames']>) =>
      withFrames(state, [...state.frames, ...payload]),
    framesKept: (state: StitchState, { payload }: PayloadAction<readonly string[]>) =>
      withFrames(
        state,
        state.frames.filter(({ id }) => payload.includes(id)),
      ),
    framesSwapped: (state: StitchState) => withFrames(state, [...state.frames].reverse()),
    /** What was on the screen when the page was left. */
    broughtBack: (
      state: StitchState,
      { payload }: PayloadAction<Pick<StitchState, 'frames' | 'settings' | 'crop'>>,
    ): StitchState => ({ ...withFrames(state, payload.frames), settings: payload.settings, crop: payload.crop }),
    framesUnderstood: (state: StitchState, { payload }: PayloadAction<StitchReport>): StitchState => ({
      ...state,
      report: payload,
      pulledFrame: payload.order[0] ?? 0,
    }),
    projectionChosen: (state: StitchState, { payload }: PayloadAction<ProjectionChoice>): StitchState =>
      choose(state, withSettings(state, { projection: payload })),
    /** A turn on top of all before it. */
    turned: (state: StitchState, { payload }: PayloadAction<Rotation>): StitchState => ({
      ...choose(state, withSettings(state, { turn: multiplyHomographies(payload, state.settings.turn) })),
      hand: 'crop',
    }),
    turnDropped: (state: StitchState): StitchState => choose(state, withSettings(state, { turn: NO_TURN })),
    pulled: (state: StitchState, { payload }: PayloadAction<PulledStroke>): StitchState =>
      choose(state, withSettings(state, { pulled: [...state.settings.pulled, payload] })),
    pullsDropped: (state: StitchState): StitchState => choose(state, withSettings(state, { pulled: [] })),
    cropped: (state: StitchState, { payload }: PayloadAction<Rect | undefined>): StitchState =>
      choose(state, { crop: payload }, 'crop'),
    gestureEnded: (state) => void (state.gesture = ''),
    undone(state: StitchState): StitchState {
      const before = state.past.at(-1);
      if (!before) return state;
      const future = [...state.future, choicesOf(state)];
      return { ...state, ...before, past: state.past.slice(0, -1), future, gesture: '' };
    },
    redone(state: StitchState): StitchState {
      const after = state.future.at(-1);
      if (!after) return state;
      const past = [...state.past, choicesOf(state)];
      return { ...state, ...after, past, future: state.future.slice(0, -1), gesture: '' };
    },
    handChosen: (state, { payload }: PayloadAction<StitchHand>) => void (state.hand = payload),
    seamsToggled: (state) => void (state.seamsShown = !state.seamsShown),
    pulledFrameChosen: (state, { payload }: PayloadAction<number>) => void (state.pulledFrame = payload),
    pullResized: (state, { payload }: PayloadAction<number>) => void (state.pullRadiusPx = payload),
    workReported: (state, { payload }: PayloadAction<StitchState['work']>) => void (state.work = payload),
    workEnded: (state) => void (state.work = initialState.work),
    troubleTold: (state, { payload }: PayloadAction<string>) => void (state.trouble = payload),
    left: () => initialState,
  },
});

export const stitchActions = stitchSlice.actions;
