import { mkdir, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { cropImage, type RasterImage } from '../src/core/image/rasterImage.ts';
import { areaOf, createMask, pasteMask, type Mask } from '../src/core/mask/mask.ts';
import { drain } from '../src/core/progress.ts';
import { nodeKernels } from '../src/kernels/node/nodeKernels.ts';
import { composePatches } from '../src/operations/composePatches.ts';
import { operationOf } from '../src/operations/catalogue.ts';
import { markFromMask } from '../src/operations/marks/renderMark.ts';
import type { StepResult } from '../src/operations/operation.ts';
import { writePicture } from '../src/formats/node/pictureFiles.ts';
import { flatFill, membraneFill } from './baselines.ts';
import { fidelity, type Fidelity } from './fidelity.ts';
import { demoPhoto, enlarged, enlargedMask, jarsWithShadow, looseMask, truthPhoto } from './scenes.ts';

const kernels = nodeKernels();
const OUT = fileURLToPath(new URL('./out/', import.meta.url));
const print = (...cells: (string | number)[]): void =>
  console.log(cells.map((cell, i) => (i === 0 ? String(cell).padEnd(34) : String(cell).padStart(12))).join(''));
const rounded = (value: number): string => value.toFixed(value < 10 ? 3 : 0);

function clear(
  photo: RasterImage,
  mask: Mask,
  strategy: string,
): { result: StepResult; image: RasterImage; ms: number } {
  const operation = operationOf('clear');
  const params = operation.schema.parse({ mark: markFromMask(mask), take: { strategy, seed: 1 } });
  const start = performance.now();
  const regions = operation.regions(params, photo).map((rect) => ({ rect, image: cropImage(photo, rect) }));
  const result = drain(
    operation.apply({ params, photo, regions, inputKey: 'bench', memo: new Map<string, unknown>(), kernels }),
  );
  const ms = performance.now() - start;
  const image = { ...photo, data: photo.data.slice() };
  composePatches(image, { x: 0, y: 0 }, result.patches);
  return { result, image, ms };
}

const row = (name: string, f: Fidelity): void =>
  print(name, rounded(f.tone), rounded(f.texture), rounded(f.lines), rounded(f.seam));

async function quality(title: string, name: string, photo: RasterImage, truth: RasterImage, mask: Mask): Promise<void> {
  const percent = (100 * areaOf(mask)) / (photo.width * photo.height);
  console.log(`\n${title}: ${percent.toFixed(1)} % of ${photo.width} x ${photo.height} px, against the clean plate`);
  print('', 'tone', 'texture', 'lines', 'seam', 'rank', 'ms');
  const flat = fidelity(flatFill(photo, mask), truth, mask);
  row('flat fill', flat);
  row('membrane', fidelity(membraneFill(photo, mask), truth, mask));
  let best: { f: Fidelity; rank: number } | undefined;
  for (const strategy of operationOf('clear').strategies) {
    const { result, image, ms } = clear(photo, mask, strategy);
    const f = fidelity(image, truth, mask);
    print(
      strategy,
      rounded(f.tone),
      rounded(f.texture),
      rounded(f.lines),
      rounded(f.seam),
      rounded(result.rank),
      Math.round(ms),
    );
    if (!best || result.rank < best.rank) best = { f, rank: result.rank };
    await writePicture(`${OUT}${name}-${strategy.replaceAll(' ', '-')}.png`, image);
  }
  const ratio = (key: keyof Fidelity): string => rounded(best!.f[key] / flat[key]);
  print('best-ranked / flat fill', ratio('tone'), ratio('texture'), ratio('lines'), ratio('seam'));
}

function stages(title: string, photo: RasterImage, mask: Mask): number {
  const { result, ms } = clear(photo, mask, 'even');
  const megapixels = ((photo.width * photo.height) / 1e6).toFixed(1);
  const parts = Object.entries(result.timings).map(([stage, time]) => `${stage} ${Math.round(time)}`);
  print(`${title}, ${megapixels} MP`, Math.round(ms), `  ms: ${parts.join(', ')}`);
  return ms;
}

await mkdir(OUT, { recursive: true });
const quay = await demoPhoto('quay');
const jars = await jarsWithShadow(quay);
await quality('Jars and shadow from the quay', 'quay', quay, await truthPhoto('quay_clean-plate'), jars);
const yard = await demoPhoto('kilnyard');
const vase = await looseMask('kilnyard_mask-vase', yard, 14);
await quality('Vase from the kiln yard', 'kilnyard', yard, await truthPhoto('kilnyard_clean-plate'), vase);

console.log('\nCost of one take');
const small = stages('the jars', quay, jars);
const large = await enlarged(quay, 6000);
const scaled = stages('the jars, as large in the picture', large, await enlargedMask(jars, large));
const samePx = createMask(large.width, large.height);
pasteMask(samePx, { x: 1800, y: 1200 }, jars);
const same = stages('the jars, as many px', large, samePx);
print('larger photo, same px / small photo', rounded(same / small));
print('6.25 times the px / small photo', rounded(scaled / small));
const peakMb = (process.resourceUsage().maxRSS * 1024) / 1e6;
print('peak memory of the whole run, MB', Math.round(peakMb));
await writeFile(`${OUT}last.json`, JSON.stringify({ small, same, scaled, peakMb }));
