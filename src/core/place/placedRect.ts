import { affineBounds, placementToAffine, type Placement } from '../image/affine.ts';
import { intersect, type Rect } from '../image/rect.ts';

/** How something is placed, and the point (photo coordinates) about which it is scaled, turned and mirrored. */
export interface PlacedAbout {
  placement: Placement;
  centre: { x: number; y: number };
}

/** Where in the photo a marked box (photo coordinates) lands, cut to the photo; its shadow may reach farther. */
export const placedRect = (box: Rect, { placement, centre }: PlacedAbout, photo: Rect): Rect =>
  intersect(affineBounds(placementToAffine(placement, centre), box), photo);
