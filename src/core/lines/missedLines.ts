import type { Drawn } from '../fill/drawn.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { FROM_PX } from './crossing.ts';
import { seenAround } from './crossingsAround.ts';
import { edgeField } from './edgeField.ts';
import type { Join } from './joinCrossings.ts';
import type { Outlines } from './runOnLines.ts';
import { joinSeenIn } from './stoppedLines.ts';

/** A join of which less is seen is missed; one that little speaks for is not missed. */
const SEEN = 0.5;
const LEAST_VALUE = 1.8;

/** The outlines with those joins alone that are not seen in what is drawn of a hole, where that is drawn. */
export function linesMissedIn(drawn: Drawn, outlines: Outlines, image: RasterImage, box: Rect): Outlines {
  const { factor, joins } = outlines;
  const seen = seenAround(image, box, factor, 2 * FROM_PX);
  const picture = cropImage(image, seen);
  const { pixelsOf, sources } = drawn;
  sources.copy(pixelsOf, seen, picture.data);
  const field = edgeField(picture, new Uint8Array(seen.width * seen.height), factor);
  const isMissed = (join: Join): boolean =>
    join.value >= LEAST_VALUE && joinSeenIn(field, join, seen, factor, true) < SEEN;
  const missed = joins.filter(isMissed);
  return { ...outlines, joins: missed, ends: [] };
}
