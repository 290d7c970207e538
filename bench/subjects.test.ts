import { kernels } from '../tests/support/kernels.ts';
import { cropImage, type RasterImage } from '../src/core/image/rasterImage.ts';
import { combineMasks } from '../src/core/mask/combine.ts';
import { separateAreas } from '../src/core/mask/components.ts';
import { areaOf, cropMask, type Mask } from '../src/core/mask/mask.ts';
import { growMask } from '../src/core/mask/morphology.ts';
import { findShadow } from '../src/core/segment/findShadow.ts';
import { findSubjectMatte } from '../src/core/segment/findSubjectMatte.ts';
import { readMask } from '../src/formats/node/pictureFiles.ts';
import { darkened } from './moves.ts';
import { at, demoPhoto, truthPhoto } from './scenes.ts';
import { aroundLoop, binary, compareMasks, looseLoop } from './subjects.ts';

const maskOfThing = (picture: string, name: string, photo: RasterImage): Promise<Mask> =>
  readMask(at(`truth/${picture}_mask-${name}.png`), photo, name);

test.each([
  ['dunes-heron', 'heron', 0.93],
  ['kilnyard', 'broom-bucket', 0.8],
  ['kilnyard', 'handcart', 0.8],
  ['quay', 'jars', 0.96],
])('of the picture %s, %s is found in a loose loop', async (picture, name, least) => {
  const photo = await demoPhoto(picture);
  const [truth] = separateAreas(binary(await maskOfThing(picture, name, photo)), 3000);
  const loop = looseLoop(truth!);
  const rect = aroundLoop(loop);
  const found = findSubjectMatte(cropImage(photo, rect), cropMask(loop, rect), { generosity: 0 }, kernels);
  expect(compareMasks(found, cropMask(truth!, rect)).overlap).toBeGreaterThan(least);
});

test.each([
  ['quay', 'jars', 'jars-moved-1.5m'],
  ['kilnyard', 'vase', 'vase-moved'],
])('of the picture %s, the shadow of %s is found beside it', async (picture, name, moved) => {
  const photo = await demoPhoto(picture);
  const thing = await maskOfThing(picture, name, photo);
  const without = await truthPhoto(`${picture}_truth-${moved}`);
  const [near, beside] = [growMask(thing, 6), growMask(thing, 12)];
  const cast = separateAreas(darkened(photo, without, near), 3000)
    .filter(({ data }) => data.some((value, i) => value && beside.data[i]))
    .reduce((a, b) => combineMasks(a, b, 'also'));
  const found = binary(combineMasks(findShadow(photo, thing, kernels), near, 'without'));
  const missed = combineMasks(cast, found, 'without');
  expect(areaOf(missed) / areaOf(cast)).toBeLessThan(0.02);
  const tooMuch = combineMasks(found, darkened(photo, without, near, 3), 'without');
  expect(areaOf(tooMuch) / areaOf(found)).toBeLessThan(0.3);
});
