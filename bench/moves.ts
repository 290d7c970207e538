import { cropImage, type RasterImage } from '../src/core/image/rasterImage.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { combineMasks } from '../src/core/mask/combine.ts';
import { createMask, cropMask, pasteMask, type Mask } from '../src/core/mask/mask.ts';
import { growMask } from '../src/core/mask/morphology.ts';
import { drain } from '../src/core/progress.ts';
import { findHorizon } from '../src/core/planes/findHorizon.ts';
import { findShadow } from '../src/core/segment/findShadow.ts';
import { findSubjectMatte } from '../src/core/segment/findSubjectMatte.ts';
import { readMask, writePicture } from '../src/formats/node/pictureFiles.ts';
import { move } from '../src/operations/kinds/move/index.ts';
import { computation } from '../src/operations/kinds/move/compute.ts';
import { composePatches } from '../src/operations/composePatches.ts';
import type { Mark } from '../src/operations/marks/markSchema.ts';
import { markFromMask } from '../src/operations/marks/renderMark.ts';
import { distinctTakes, planTakes } from '../src/operations/takes.ts';
import { flatFill } from './baselines.ts';
import { fidelity } from './fidelity.ts';
import { at, demoPhoto, truthPhoto, withFoundShadow } from './scenes.ts';
import { aroundLoop, looseLoop } from './subjects.ts';
import type { Table } from './table.ts';

interface Moved {
  name: string;
  picture: string;
  subject: string;
  truth: string;
  truthMask: string;
  plate: string;
  placement: { dxPx: number; dyPx: number; scale: number };
}

/** Placements as they fit the renders best, from the boxes of both masks. */
const MOVED: readonly Moved[] = [
  {
    name: 'jars, quay',
    picture: 'quay',
    subject: 'jars',
    truth: 'quay_truth-jars-moved-1.5m',
    truthMask: 'quay_truth-jars-moved-1.5m_mask-jars',
    plate: 'quay_clean-plate',
    placement: { dxPx: 738, dyPx: -2, scale: 1 },
  },
  {
    name: 'vase, kiln yard',
    picture: 'kilnyard',
    subject: 'vase',
    truth: 'kilnyard_truth-vase-moved',
    truthMask: 'kilnyard_truth-vase-moved_mask-vase',
    plate: 'kilnyard_clean-plate',
    placement: { dxPx: -570, dyPx: 40, scale: 1.06 },
  },
];

/** Moved subjects, shadow found by itself, against renders of the moved thing; pictures go to `folder`. */
export async function measureMoves(folder: string, kernels: Kernels): Promise<Table> {
  const table: Table = {
    title: 'Moving, against renders of the moved thing',
    about:
      'The subject is found in a loose loop (the convex hull of the true mask grown by a tenth of its longer side), its shadow beside it, the mark grown by 10 px; of a round of takes the one shown first. Compared over both places and both shadows; tone, texture, lines and seam as above; shadow: mean squared error where the render has the new shadow, and how many times that is without the shadow moved along.',
    columns: ['', 'take', 'tone', 'texture', 'lines', 'seam', 'shadow', 'times without'],
    rows: [],
  };
  for (const scene of MOVED) {
    const photo = await demoPhoto(scene.picture);
    const truth = await truthPhoto(scene.truth);
    const name = `${scene.picture}_mask-${scene.subject}`;
    const marks = foundMarks(photo, await readMask(at(`truth/${name}.png`), photo, scene.subject), kernels);
    const landed = await readMask(at(`truth/${scene.truthMask}.png`), photo, scene.subject);
    const newShadow = darkened(truth, await truthPhoto(scene.plate), growMask(landed, 6));
    const changed = [await withFoundShadow(name, photo, kernels), growMask(landed, 14), newShadow].reduce((a, b) =>
      combineMasks(a, b, 'also'),
    );
    const withIt = movedBest(photo, marks, scene, true, kernels);
    const without = movedBest(photo, marks, scene, false, kernels);
    await writePicture(`${folder}moved-${scene.picture}.png`, withIt.image);
    const f = fidelity(withIt.image, truth, changed);
    const error = squaredError(withIt.image, truth, newShadow);
    const flat = fidelity(flatFill(photo, changed), truth, changed);
    table.rows.push([`${scene.name}: flat fill`, '', flat.tone, flat.texture, flat.lines, flat.seam, '', '']);
    const times = squaredError(without.image, truth, newShadow) / error;
    table.rows.push([scene.name, withIt.take, f.tone, f.texture, f.lines, f.seam, error, times]);
  }
  return table;
}

/** What a person marks: the subject found in a loop, and its shadow, which is no part of it. */
interface FoundMarks {
  mark: Mark;
  belongsNot: Mark;
}

const SLACK_PX = 10;

function foundMarks(photo: RasterImage, truth: Mask, kernels: Kernels): FoundMarks {
  const loop = looseLoop(truth);
  const rect = aroundLoop(loop);
  const matte = findSubjectMatte(cropImage(photo, rect), cropMask(loop, rect), { generosity: 0 }, kernels);
  const subject = createMask(photo.width, photo.height);
  pasteMask(subject, rect, matte);
  const as = (mask: Mask, found: 'subject' | 'shadow'): Mark => {
    const mark = markFromMask(mask);
    const shapes = mark.shapes.map((shape) => (shape.kind === 'raster' ? { ...shape, found } : shape));
    return { ...mark, shapes };
  };
  const belongsNot = as(findShadow(photo, subject, kernels), 'shadow');
  const { shapes } = as(subject, 'subject');
  const also = belongsNot.shapes.map((shape) => ({ ...shape, combine: 'also' as const }));
  return { mark: { ...belongsNot, shapes: [...shapes, ...also], growPx: SLACK_PX }, belongsNot };
}

/** The take of a round that is shown first. */
function movedBest(
  photo: RasterImage,
  marks: FoundMarks,
  { placement }: Moved,
  withShadow: boolean,
  kernels: Kernels,
): { take: string; image: RasterImage } {
  const memo = new Map<string, unknown>();
  const horizonPx = findHorizon(photo);
  const takes = planTakes(move, 0).map((take) => {
    const params = move.schema.parse({ ...marks, placement, withShadow, horizonPx, take });
    const regions = move.regions(params, photo).map((rect) => ({ rect, image: cropImage(photo, rect) }));
    const result = drain(computation.apply({ params, photo, regions, inputKey: 'photo', memo, kernels }));
    return { spec: take, result };
  });
  const [best] = distinctTakes(takes);
  const image = { ...photo, data: photo.data.slice() };
  composePatches(image, { x: 0, y: 0 }, best!.result.patches);
  return { take: best!.spec.strategy, image };
}

const DARKER_BY = 15;

/** Where one picture is darker than the other by so many levels, clearly if not said, without what `except` covers. */
export function darkened(picture: RasterImage, lit: RasterImage, except: Mask, byLevels = DARKER_BY): Mask {
  const out = createMask(picture.width, picture.height);
  for (let i = 0; i < out.data.length; i++) {
    let difference = 0;
    for (let c = 0; c < 3; c++) difference += lit.data[4 * i + c]! - picture.data[4 * i + c]!;
    if (!except.data[i] && difference > 3 * byLevels) out.data[i] = 255;
  }
  return out;
}

function squaredError(picture: RasterImage, truth: RasterImage, where: Mask): number {
  let sum = 0;
  let count = 0;
  for (let i = 0; i < where.data.length; i++) {
    if (!where.data[i]) continue;
    for (let c = 0; c < 3; c++) sum += (picture.data[4 * i + c]! - truth.data[4 * i + c]!) ** 2;
    count += 3;
  }
  return sum / Math.max(1, count);
}
