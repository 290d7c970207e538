import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { carryOn } from '../lattices/carryOn.ts';
import { linesMissedIn } from '../lines/missedLines.ts';
import type { RunOnLine } from '../lines/runOnLine.ts';
import { drawFound, drawLines, type Outlines } from '../lines/runOnLines.ts';
import type { Hole } from '../mask/byteMasks.ts';
import type { Drawn } from './drawn.ts';
import type { Learned } from './learned.ts';
import type { FillStrategy } from './strategy.ts';

interface Place {
  image: RasterImage;
  hole: Hole;
  box: Rect;
  outlines: Outlines;
  pastEdge: boolean;
  learned: Learned;
}

/** What is drawn of a hole, in order: what comes first covers what comes later. */
export interface DrawnFirst {
  drawn: Drawn[];
  /** The lines that were set among it, if any of them is drawn. */
  set: Drawn | undefined;
}

/**
 * What runs on through a hole, drawn before the rest is filled. Lines that were set come before all else; repeats that contradict them are left out.
 */
export function drawnFirst(
  place: Place,
  set: readonly RunOnLine[] | undefined,
  { runsOn }: Pick<FillStrategy, 'runsOn'>,
): DrawnFirst {
  const { image, hole, box, outlines, pastEdge, learned } = place;
  const repeats = runsOn === 'not' ? undefined : (learned.repeats ??= { drawn: carryOn(image, hole, box) }).drawn;
  if (set) {
    const lines = drawLines(set, outlines, image, hole, box);
    const isLeftOut = !repeats || (lines && contradict(repeats, lines, image.width));
    return { drawn: existing(lines, isLeftOut ? undefined : repeats), set: lines };
  }
  // What runs past the picture's edge is seen from one side only.
  if (runsOn === 'not' || pastEdge) return byItself(repeats);
  const lines = (learned.lines ??= { drawn: drawFound(outlines, image, hole, box) }).drawn;
  if (runsOn === 'lines first' || !repeats) return byItself(lines, repeats);
  learned.missed ??= { drawn: drawFound(linesMissedIn(repeats, outlines, image, box), image, hole, box) };
  return byItself(learned.missed.drawn, repeats, lines);
}

const byItself = (...all: (Drawn | undefined)[]): DrawnFirst => ({ drawn: existing(...all), set: undefined });

const existing = (...all: (Drawn | undefined)[]): Drawn[] => all.filter((each) => each !== undefined);

/** Of what is drawn twice so much must be about the same; colours are if they differ by so many levels. */
const AGREEING = { share: 0.8, levels: 40 };

/** Whether what repeats is something else where lines were set: they were set to change what is there. */
function contradict(repeats: Drawn, lines: Drawn, across: number): boolean {
  const [a, b] = [new Float32Array(3), new Float32Array(3)];
  let [agreeing, count] = [0, 0];
  for (let i = 0; i < lines.pixelsOf.length; i++) {
    if (!lines.pixelsOf[i] || !repeats.pixelsOf[i]) continue;
    const [x, y] = [i % across, Math.floor(i / across)];
    const areSeen = [repeats, lines].every(({ sources }, k) => sources.sample(sources.groupAt(x, y), x, y, k ? b : a));
    if (!areSeen) continue;
    count++;
    if (a.every((value, c) => Math.abs(value - b[c]!) < AGREEING.levels)) agreeing++;
  }
  return agreeing < AGREEING.share * count;
}
