import { AGGREGATES, DIAGONALS, PAD } from '../blend/gridLaplacian.ts';
import type { BandWork } from '../kernels/kernels.ts';
import { ALIGN, PIECE_SEAMS } from './alignPieces.ts';
import { CUTS, LABELS } from './cutSeams.ts';
import { DETAIL, JUDGE_DETAIL, REBUILT_LUMA } from './detailMeasure.ts';
import { DRAW_PLANE } from './drawPlane.ts';
import { LUMA_SQUARES } from './lumaSquares.ts';
import { ADD_COARSE, RAISE } from './raiseDetail.ts';
import { LIST_HOLE, LISTS } from './pyramid.ts';
import { BEND_COSTS } from './rimBends.ts';
import { READ_LEVEL } from './readLevels.ts';
import { RIM_STEPS } from './rimMeasure.ts';
import { SEAM_SUMS } from './seamMeasure.ts';
import { BLOCK_GROUPS } from './blockGroups.ts';
import { GROUPS } from './copiedPart.ts';
import { RIM, SEAMS } from './seamSystem.ts';
import { HARD_SEAMS, SOFTEN } from './softenSeams.ts';
import { KNOWN_WORK } from './surroundings.ts';
import { CHANNEL_TONES, REBUILT_TONES } from './toneMeasure.ts';
import { TONES } from './transfer.ts';
import { COPY } from './wholeSources.ts';
import { TEXTURE_COLUMNS, TEXTURE_ROWS, WORK_CELLS } from './workImage.ts';

const ALL = [
  DRAW_PLANE,
  WORK_CELLS,
  TEXTURE_ROWS,
  TEXTURE_COLUMNS,
  LIST_HOLE,
  LISTS,
  READ_LEVEL,
  ALIGN,
  PIECE_SEAMS,
  BEND_COSTS,
  COPY,
  GROUPS,
  LUMA_SQUARES,
  BLOCK_GROUPS,
  SEAMS,
  RIM,
  PAD,
  DIAGONALS,
  AGGREGATES,
  TONES,
  HARD_SEAMS,
  SOFTEN,
  LABELS,
  CUTS,
  REBUILT_LUMA,
  DETAIL,
  JUDGE_DETAIL,
  SEAM_SUMS,
  ADD_COARSE,
  RIM_STEPS,
  RAISE,
  REBUILT_TONES,
  CHANNEL_TONES,
  KNOWN_WORK,
];

/** The core's own work that threads share, by its name. */
export const SHARED_WORK: ReadonlyMap<string, BandWork<never>> = new Map(
  ALL.map((work: BandWork<never>) => [work.name, work]),
);
