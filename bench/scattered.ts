import type { RasterImage } from '../src/core/image/rasterImage.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { createMask, type Mask } from '../src/core/mask/mask.ts';
import { createRandom } from '../src/core/numeric/random.ts';
import { writePicture } from '../src/formats/node/pictureFiles.ts';
import { flatFill, membraneFill } from './baselines.ts';
import { fidelity, overall } from './fidelity.ts';
import { FIRST_ROUND, rebuild } from './rebuild.ts';
import { demoPhoto } from './scenes.ts';
import type { Table } from './table.ts';

const CABLE_PX = 14;
const SPOTS = 6;

/** What is thin or lies about, in one mark: cables across a picture, and spots all over it. */
export async function measureScattered(folder: string, kernels: Kernels): Promise<Table> {
  const table: Table = {
    title: 'Cables and spots',
    about:
      'Two lines of 14 px across each demo picture (2400 px wide), and six ellipses of 25 to 90 px about, marked and rebuilt by the first take; against the picture itself. Overall as in the quality table (share of a flat fill, 0 = the truth), beside a membrane. Milliseconds by the clock, two threads.',
    columns: ['', 'first take', 'membrane', 'ms'],
    rows: [],
  };
  for (const name of ['quay', 'kilnyard', 'dunes-heron', 'glaze-table', 'facade']) {
    const photo = await demoPhoto(name);
    for (const [what, mark] of [
      ['cables', cablesAcross(photo)],
      ['spots', spotsOn(photo)],
    ] as const) {
      const flat = fidelity(flatFill(photo, mark), photo, mark);
      const score = (picture: RasterImage): number => overall(fidelity(picture, photo, mark), flat);
      const made = rebuild(photo, mark, FIRST_ROUND[0]!, kernels);
      await writePicture(`${folder}${what}-${name}.png`, made.picture());
      const figures = [score(made.picture()), score(membraneFill(photo, mark)), Math.round(made.ms)];
      table.rows.push([`${name}, ${what}`, ...figures]);
    }
  }
  return table;
}

/** One line falling and one rising, as a share of the picture's height at its left and right edge. */
const CABLES = [
  [0.2, 0.75],
  [0.6, 0.35],
] as const;

function cablesAcross({ width, height }: RasterImage): Mask {
  const mask = createMask(width, height);
  for (let x = 0; x < width; x++) {
    for (const [left, right] of CABLES) {
      const top = Math.round(height * (left + ((right - left) * x) / width));
      for (let y = top; y < top + CABLE_PX; y++) mask.data[y * width + x] = 255;
    }
  }
  return mask;
}

function spotsOn({ width, height }: RasterImage): Mask {
  const mask = createMask(width, height);
  const random = createRandom(4);
  for (let k = 0; k < SPOTS; k++) {
    const [a, b] = [25 + random.below(65), 25 + random.below(65)];
    const [u, v] = [a + random.below(width - 2 * a), b + random.below(height - 2 * b)];
    for (let y = v - b; y < v + b; y++) {
      for (let x = u - a; x < u + a; x++) {
        if (((x - u) / a) ** 2 + ((y - v) / b) ** 2 < 1) mask.data[y * width + x] = 255;
      }
    }
  }
  return mask;
}
