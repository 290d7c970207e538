import type { Kernels } from '../src/core/kernels/kernels.ts';
import type { RasterImage } from '../src/core/image/rasterImage.ts';
import type { Mask } from '../src/core/mask/mask.ts';
import { writePicture } from '../src/formats/node/pictureFiles.ts';
import { flatFill, membraneFill } from './baselines.ts';
import { cells, fidelity, overall, type Fidelity } from './fidelity.ts';
import { FIRST_ROUND, rebuild } from './rebuild.ts';
import { broomWithShadow, demoPhoto, jarsWithShadow, looseMask, truthPhoto, withFoundShadow } from './scenes.ts';
import type { Table } from './table.ts';

interface Scene {
  name: string;
  photo: RasterImage;
  truth: RasterImage;
  mark: Mask;
}

/** Things of the demo pictures, each with the render of the same place without it. */
async function scenes(kernels: Kernels): Promise<Scene[]> {
  const quay = await demoPhoto('quay');
  const yard = await demoPhoto('kilnyard');
  const dunes = await demoPhoto('dunes-heron');
  const yardPlate = await truthPhoto('kilnyard_clean-plate');
  const inYard = async (name: string, mask: string): Promise<Scene> => ({
    name,
    photo: yard,
    truth: yardPlate,
    mark: await withFoundShadow(mask, yard, kernels),
  });
  return [
    {
      name: 'jars and shadow, quay',
      photo: quay,
      truth: await truthPhoto('quay_clean-plate'),
      mark: await jarsWithShadow(quay),
    },
    await inYard('vase and shadow, kiln yard', 'kilnyard_mask-vase'),
    await inYard('handcart and shadow, kiln yard', 'kilnyard_mask-handcart'),
    {
      name: 'broom, bucket and shadow, kiln yard',
      photo: yard,
      truth: yardPlate,
      mark: await broomWithShadow(yard),
    },
    {
      name: 'heron, dunes',
      photo: dunes,
      truth: await truthPhoto('dunes-heron_clean-plate'),
      mark: await looseMask('dunes-heron_mask-heron', dunes, 14),
    },
  ];
}

/** Every strategy and two baselines against the truth, and how well the ranking picks; pictures go to `folder`. */
export async function measureQuality(folder: string, kernels: Kernels): Promise<Table[]> {
  const quality: Table = {
    title: 'Quality against clean renders',
    about:
      'Things cleared from the demo pictures (marks grown by 14 px, with the shadows that are found beside them grown by 7, those of jars and broom drawn by hand; what of a shadow is not found stays), compared with renders without them: tone in levels, texture in octaves, lines as the share missing, seam as a share; 0 = the truth. Overall: mean of the four, each as a share of the flat fill. Takes are in the order they are shown.',
    columns: ['', 'tone', 'texture', 'lines', 'seam', 'overall'],
    rows: [],
  };
  const ranking: Table = {
    title: 'Ranking',
    about: 'Overall of the take shown first, of the best of all, and the rank correlation of the shown order with it.',
    columns: ['', 'shown first', 'best', 'rank correlation'],
    rows: [],
  };
  for (const { name, photo, truth, mark } of await scenes(kernels)) {
    const flat = fidelity(flatFill(photo, mark), truth, mark);
    const add = (label: string, f: Fidelity): void => {
      quality.rows.push([label, ...cells(f), overall(f, flat)]);
    };
    add(`${name}: flat fill`, flat);
    add('membrane', fidelity(membraneFill(photo, mark), truth, mark));
    const takes = [];
    for (const strategy of FIRST_ROUND) {
      const made = rebuild(photo, mark, strategy, kernels);
      const picture = made.picture();
      const f = fidelity(picture, truth, mark);
      takes.push({ strategy, f, rank: made.fill.rank, overall: overall(f, flat) });
      const file = `${name} ${strategy.name}`.replaceAll(/[^a-z]+/g, '-');
      await writePicture(`${folder}${file}.png`, picture);
    }
    takes.sort((a, b) => a.rank - b.rank);
    takes.forEach((take, k) => add(`take ${k + 1}: ${take.strategy.name}`, take.f));
    const scores = takes.map((take) => take.overall);
    ranking.rows.push([name, scores[0]!, Math.min(...scores), rankCorrelation(scores)]);
  }
  return [quality, ranking];
}

/** Spearman's correlation of the values' order with the order they are in. */
export function rankCorrelation(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const n = values.length;
  const squares = values.reduce((sum, value, k) => sum + (sorted.indexOf(value) - k) ** 2, 0);
  return 1 - (6 * squares) / (n * (n * n - 1));
}
