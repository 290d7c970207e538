import { areaScaleAt, type Homography } from '../geometry/homography.ts';
import type { Rect } from '../image/rect.ts';
import { agreementWithin } from './agreementWithin.ts';
import type { DetailField } from './detailField.ts';
import { expandLabel, type LabelCosts } from './expandLabel.ts';
import { cellsBeside, holeCells, middleOf, type HoleCells } from './holeCells.ts';
import type { SelfMap } from './selfMap.ts';
import { shownBy } from './shownBy.ts';
import { expectedTones, tonesOf } from './tones.ts';

/** How it is decided which map a place is drawn by; costs are in levels of a seam's cell. */
export const CHOICE_OPTIONS = {
  /** Agreement is measured on what is known within so many px of the hole. */
  band: 12,
  /** What a place of no agreement costs against one of full agreement. */
  disagreement: 30,
  /** What a map of no support costs against one that is well supported. */
  unsupported: 10,
  wellSupported: 80,
  /** What a level costs that tones differ by more than so many from those expected. */
  foreign: 0.4,
  sameTone: 12,
  /** What is enlarged gets soft: from this area scale down, up to so much. */
  softBelow: 0.4,
  soft: 20,
  /** A place whose maps agree less is left to be filled, and what its rim costs a cell. */
  least: 0.48,
  leaving: 10,
  /** What a cell of a seam costs however well both sides agree, and the most that differences count, in levels. */
  seam: 1.5,
  most: 60,
  /** So often every label is tried. */
  rounds: 2,
};
type ChoiceOptions = typeof CHOICE_OPTIONS;

/** A label for each cell of a box: 0 where it is known, not of the hole, or left to be filled; else a map counted from 1. */
export interface MapLabels {
  /** Where the first cell lies, in reduced px. */
  left: number;
  top: number;
  width: number;
  labels: Uint8Array;
}

/** What no cell may cost. */
const IMPOSSIBLE = 1e6;
const ITSELF: Homography = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/**
 * Chooses by which maps (255 at most) the hole with bounds `box` is drawn; where none fits it is left. `colours`: R, G, B,
 * interleaved, of the field's pixels.
 */
export function chooseMaps(
  colours: Float32Array,
  field: DetailField,
  box: Rect,
  maps: readonly SelfMap[],
  options: ChoiceOptions = CHOICE_OPTIONS,
): MapLabels {
  const hole = holeCells(field, box, options.band);
  const { left, top, width, height, cells } = hole;
  const costs = costsOf(colours, field, hole, maps, options);
  const chosen = new Uint8Array(cells.length);
  for (let round = 0; round < options.rounds; round++) {
    let changed = false;
    for (let label = 0; label <= maps.length; label++) changed = expandLabel(label, chosen, costs, hole) || changed;
    if (!changed) break;
  }
  const labels = new Uint8Array(width * height);
  for (const [k, cell] of cells.entries()) labels[cell] = chosen[k]!;
  return { left, top, width, labels };
}

function costsOf(
  colours: Float32Array,
  field: DetailField,
  hole: HoleCells,
  maps: readonly SelfMap[],
  options: ChoiceOptions,
): LabelCosts {
  const { cells, numberOf } = hole;
  const { disagreement, least, leaving, seam, most } = options;
  const known = shownBy(colours, field, ITSELF, hole);
  const shown = maps.map(({ map }) => shownBy(colours, field, map, hole));
  const scene: Scene = {
    known,
    expected: expectedTones(known, hole),
  };
  const left = Float32Array.from(cells, (cell) => {
    const atRim = cellsBeside(hole, cell).filter((other) => other >= 0 && numberOf[other]! < 0).length;
    // As a seam's, what its two sides cost is shared.
    return disagreement * (1 - least) + (leaving / 2) * atRim;
  });
  return {
    own: [left, ...maps.map((map, k) => costsOfMap(map, shown[k]!, field, hole, scene, options))],
    seam(a, b, cell, other) {
      if (a === b) return 0;
      if (a === 0 || b === 0) return leaving;
      const [p, q] = [shown[a - 1]!, shown[b - 1]!];
      return seam + (apart(p, q, cell, most) + apart(p, q, other, most)) / 2;
    },
  };
}

/** What maps are held against. */
interface Scene {
  known: Float32Array;
  expected: Float32Array;
}

/** What it costs each cell of the hole to be drawn by a map. */
function costsOfMap(
  { map, support }: SelfMap,
  shown: Float32Array,
  field: DetailField,
  hole: HoleCells,
  { known, expected }: Scene,
  options: ChoiceOptions,
): Float32Array {
  const { disagreement, unsupported, wellSupported, foreign, sameTone, softBelow, soft, seam, most } = options;
  const tones = tonesOf(shown, hole);
  const agreement = agreementWithin(field, map, hole);
  const ofAll = unsupported * Math.max(0, 1 - support / wellSupported);
  return Float32Array.from(hole.cells, (cell) => {
    if (Number.isNaN(shown[3 * cell]!)) return IMPOSSIBLE;
    const { x, y } = middleOf(hole, cell);
    const scale = areaScaleAt(map, x, y);
    let cost = ofAll + disagreement * (1 - agreement[cell]!);
    cost += foreign * Math.max(0, apart(tones, expected, cell, most) - sameTone);
    cost += soft * Math.max(0, 1 - scale / softBelow);
    for (const other of cellsBeside(hole, cell)) {
      const isRim = other >= 0 && hole.numberOf[other]! < 0 && !Number.isNaN(known[3 * other]!);
      if (isRim) cost += seam + apart(shown, known, other, most);
    }
    return cost;
  });
}

/** Mean difference of colours at a cell, in levels; what is not shown differs by `most`. */
function apart(a: Float32Array, b: Float32Array, cell: number, most: number): number {
  let sum = 0;
  for (let i = 3 * cell; i < 3 * cell + 3; i++) sum += Math.abs(a[i]! - b[i]!);
  return sum / 3 < most ? sum / 3 : most;
}
