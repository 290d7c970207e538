import { z } from 'zod';
import { affineBounds, placementToAffine } from '../../core/image/affine.ts';
import { howRebuilt, type DraftBase } from '../draftBase.ts';
import { mappedShift } from '../following.ts';
import type { DraftKind, StepKind } from '../kind.ts';
import { followMarks } from '../followMarks.ts';
import { middleOfMark } from '../marks/followMark.ts';
import { landingRegion, subjectFrame } from './subjectRegions.ts';
import { rebuildRegion } from './rebuildRegion.ts';
import {
  placedLight,
  placementSchema,
  readsSchema,
  shadowStrength,
  type PlacementParams,
  type PlacingParams,
} from './rebuildSchema.ts';

const NO_PLACEMENT: PlacementParams = { dxPx: 0, dyPx: 0, scale: 1, turn: 0, mirror: 'none' };

const ownSchema = z.object({
  placement: placementSchema.default(NO_PLACEMENT),
  /** Whose light the subject takes, in percent. */
  light: placedLight,
  withShadow: z.boolean().default(true),
  shadowStrength,
  /** The horizon, px from the top, by which sizes follow the ground; absent: they don't. */
  horizonPx: z.number().optional(),
  /** Out of which picture the subject is taken. */
  reads: readsSchema.optional(),
});

/** What a draft holds for a subject that is put elsewhere. */
export type Placing = z.infer<typeof ownSchema>;

export const isPlaced = ({ dxPx, dyPx, scale, turn, mirror }: PlacementParams): boolean =>
  dxPx !== 0 || dyPx !== 0 || scale !== 1 || turn !== 0 || mirror !== 'none';

const next = ({ reads: _, ...own }: Placing): Placing => ({ ...own, placement: NO_PLACEMENT });

/** The marks beside the main one that placing takes from a draft. */
const aside = ({ inFront, belongs, belongsNot }: Pick<DraftBase, 'inFront' | 'belongs' | 'belongsNot'>) => ({
  ...(inFront && { inFront }),
  ...(belongs && { belongs }),
  ...(belongsNot && { belongsNot }),
});

/** How kinds that put a subject elsewhere are worked on; `canRead`: out of earlier pictures, too. */
const placingDraft = (
  canRead: boolean,
  describe: (placement: PlacementParams) => string,
): DraftKind<PlacingParams, Placing> => ({
  job: 'subjects',
  isOffered: true,
  schema: ownSchema,
  begin(_photo, before) {
    const known = before.map((change) => ('placement' in change ? ownSchema.safeParse(change) : undefined));
    const [latest] = known;
    // A move that becomes a duplicate, or the other way round, stays where it was put.
    if (latest?.success) return latest.data;
    const earlier = known.find((each) => each?.success);
    return earlier?.success ? next(earlier.data) : ownSchema.parse({});
  },
  next,
  toParams: (draft, { reads, ...own }) => ({
    ...howRebuilt(draft),
    ...aside(draft),
    ...own,
    mark: draft.mark,
    ...(canRead && reads && { reads }),
  }),
  toDraft: ({ light, placement, withShadow, shadowStrength: strength, horizonPx, reads, ...params }) => ({
    common: { ...howRebuilt(params), ...aside(params) },
    own: {
      placement,
      light,
      withShadow,
      shadowStrength: strength,
      ...(horizonPx !== undefined && { horizonPx }),
      ...(reads !== 'present' && { reads }),
    },
  }),
  fromFlat: ({ placement, placedLight: light, withShadow, shadowStrength: strength, horizonPx, reads }) => ({
    placement,
    light,
    withShadow,
    shadowStrength: strength,
    horizonPx,
    reads,
  }),
  missing: (_draft, { placement }) => (isPlaced(placement) ? undefined : 'Drag the marked subject to its new place.'),
  remakesTakes: true,
  cutsOut: true,
  ...(canRead && { reads: ({ reads = 'present' }: Placing) => reads }),
  follow: (own, by, { mark }) => ({
    ...own,
    placement: { ...own.placement, ...mappedShift(by, middleOfMark(mark), own.placement) },
    ...(own.horizonPx !== undefined && { horizonPx: by.to({ x: 0, y: own.horizonPx }).y }),
  }),
  line: ({ placement }) => (isPlaced(placement) ? describe(placement) : ''),
});

/** What kinds have in common that put a subject elsewhere. */
export const placingKind = (
  canRead: boolean,
  describe: (placement: PlacementParams) => string,
): Pick<StepKind<string, PlacingParams, Placing>, 'regions' | 'piece' | 'follow' | 'draft'> => ({
  regions: (params, photo) => [rebuildRegion(params, photo), landingRegion(params, photo)],
  piece({ mark, placement }, photo) {
    const { frame, centre } = subjectFrame(mark, photo);
    return affineBounds(placementToAffine(placement, centre), frame);
  },
  follow: (params, by) => ({
    ...followMarks(params, by),
    placement: { ...params.placement, ...mappedShift(by, middleOfMark(params.mark), params.placement) },
    ...(params.horizonPx !== undefined && { horizonPx: by.to({ x: 0, y: params.horizonPx }).y }),
  }),
  draft: placingDraft(canRead, describe),
});
