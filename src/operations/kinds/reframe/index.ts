import { isAsTaken, photoToFrame } from '../../../core/geometry/frameGeometry.ts';
import { wholeOf, type Size } from '../../../core/image/rect.ts';
import { howRebuilt } from '../../draftBase.ts';
import { scaleAt, type Mapping } from '../../following.ts';
import { followMarks } from '../../followMarks.ts';
import { defineKind } from '../../kind.ts';
import { rebuildRegion, REBUILD_STRATEGIES } from '../../rebuild/rebuildRegion.ts';
import { requireUsableSize } from '../../requireUsableSize.ts';
import { describeFrame } from './describeFrame.ts';
import { rebuildOf } from './rebuildOf.ts';
import { reframeSchema, type FrameParams } from './schema.ts';
import { photoInFrame, throughFrame, vacantSides } from './vacancy.ts';

const ownSchema = reframeSchema.pick({ frame: true, sides: true, rimPx: true, passes: true });

/** A frame around what it was around, where an earlier step only shifts the picture or gives it another size. */
function followFrame(frame: FrameParams, by: Mapping): FrameParams | undefined {
  const { x, y, width, height } = frame.rect;
  if (by.shift) return { ...frame, rect: { ...frame.rect, x: x + by.shift.dx, y: y + by.shift.dy } };
  const [a, b, c] = [by.to({ x, y }), by.to({ x: x + width, y: y + height }), by.to({ x: x + width, y })];
  const isUpright = Math.abs(c.y - a.y) < 0.5 && Math.abs(c.x - b.x) < 0.5 && b.x > a.x && b.y > a.y;
  if (!isUpright || !isAsTaken(frame)) return undefined;
  const rect = {
    x: Math.round(a.x),
    y: Math.round(a.y),
    width: Math.max(1, Math.round(b.x - a.x)),
    height: Math.max(1, Math.round(b.y - a.y)),
  };
  return { ...frame, rect };
}

/** Another frame for the photo: cut, carried past its edges, levelled, squared up; what is vacant is rebuilt. */
export const reframe = defineKind({
  type: 'reframe',
  version: 1,
  title: 'Frame',
  schema: reframeSchema,
  strategies: REBUILD_STRATEGIES,
  summarize: ({ frame }) => `Frame ${describeFrame(frame)}`,
  reshape({ frame }, photo) {
    requireUsableSize(frame.rect, photo);
    const { width, height } = frame.rect;
    return { warps: [{ kind: 'projective', toTarget: photoToFrame(frame, photo) }], size: { width, height } };
  },
  regions(params, frame, before = frame) {
    const rebuild = rebuildOf(params, { ...frame, photo: before });
    return rebuild.mark.shapes.length > 0 ? [rebuildRegion(rebuild, frame)] : [];
  },
  photoInside({ frame }, photo, inside) {
    if (vacantSides(frame, photo).length > 0) return photoInFrame(frame, photo);
    return inside && throughFrame(inside, frame, photo);
  },
  follow(params, by) {
    const frame = followFrame(params.frame, by);
    if (!frame) return undefined;
    const rimPx = Math.min(400, Math.round(params.rimPx * scaleAt(by, frame.rect)));
    return { ...followMarks(params, by), frame, rimPx };
  },
  draft: {
    job: 'frame',
    isOffered: true,
    schema: ownSchema,
    begin: (photo) => ownSchema.parse({ frame: { rect: wholeOf(photo) } }),
    toParams: (draft, own) => ({ ...howRebuilt(draft), ...own, light: draft.light }),
    toDraft: ({ light, frame, sides, rimPx, passes, ...how }) => ({
      common: { ...howRebuilt(how), light },
      own: { frame, sides, rimPx, passes },
    }),
    fromFlat: ({ reframe: own }) => own,
    missing: (_draft, { frame }, photo) =>
      isOwnFrame(frame, photo) ? 'Drag the frame, or choose a ratio.' : undefined,
    isPlain: ({ frame, sides }, photo) => !vacantSides(frame, photo).some((side) => sides.includes(side)),
    shapeKey: (_draft, { frame }) => JSON.stringify(frame),
    looksAround: true,
    remakesTakes: false,
    follow: (own, by) => ({ ...own, frame: followFrame(own.frame, by) ?? own.frame }),
  },
});

/** Whether a frame is the photo's own. */
function isOwnFrame(frame: FrameParams, { width, height }: Size): boolean {
  const { rect } = frame;
  return isAsTaken(frame) && rect.x === 0 && rect.y === 0 && rect.width === width && rect.height === height;
}
