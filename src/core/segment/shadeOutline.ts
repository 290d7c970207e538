import { LINEAR_FROM_BYTE } from '../image/linearLight.ts';
import type { Mask } from '../mask/mask.ts';
import { FEATURES } from './colourMixture.ts';

/** Both sides of an outline are looked at so many px from it: a shadow's edge is soft. */
const FROM_OUTLINE_PX = 3;
/** Fewer places along the outline tell nothing. */
const FEWEST_PLACES = 8;
/** Of a shadow's outline a quarter, at most, may be lighter inside by so much (natural logarithm of linear light). */
const LIGHTER_INSIDE = 0.3;
/**
 * The median of how far red and blue light change differently across a shadow's outline: light from the sky alone is
 * bluer than the sun's, so it may be the more, the darker it is inside.
 */
const CHANGE_OF_HUE = 0.2;
/** How dark it is inside: all but so much of the outline darkens by more. */
const DARKENED_SHARE = 0.3;
const CHANGE_WITH_DARKENING = 0.5;

/**
 * Whether an area may be a shadow by what lies along its outline: where that does not run along the subject, it is
 * darker inside than outside nearly everywhere, and mostly of the same hue, as both sides are one ground. Other
 * things that are as dark as a shadow (a table before a wall, grass behind a flower) end at lighter and darker ones
 * alike. True where too little of the outline is seen to tell.
 *
 * `area` and `subject` are masks of one size; `features` as `describePixels` makes them, FEATURES a pixel.
 */
export function hasShadeOutline(area: Mask, subject: Mask, features: Float32Array): boolean {
  const { width, height, data } = area;
  const brightening: number[] = [];
  const changeOfHue: number[] = [];
  const isInPicture = (x: number, y: number): boolean => x >= 0 && y >= 0 && x < width && y < height;
  const look = (x: number, y: number, dx: number, dy: number): void => {
    const beside = (y + dy) * width + x + dx;
    if (!isInPicture(x + dx, y + dy) || data[beside] || subject.data[beside]) return;
    const [a, b] = [x - FROM_OUTLINE_PX * dx, y - FROM_OUTLINE_PX * dy];
    const [c, d] = [x + (FROM_OUTLINE_PX + 1) * dx, y + (FROM_OUTLINE_PX + 1) * dy];
    if (!isInPicture(a, b) || !isInPicture(c, d)) return;
    const [inside, outside] = [b * width + a, d * width + c];
    if (!data[inside] || data[outside] || subject.data[inside] || subject.data[outside]) return;
    const [here, there] = [lightAt(features, inside), lightAt(features, outside)];
    brightening.push(Math.log(there.luma / here.luma));
    changeOfHue.push(Math.abs(Math.log(there.red / here.red) - Math.log(there.blue / here.blue)));
  };
  for (let i = 0; i < data.length; i++) {
    if (!data[i]) continue;
    const x = i % width;
    const y = Math.floor(i / width);
    look(x, y, 1, 0);
    look(x, y, -1, 0);
    look(x, y, 0, 1);
    look(x, y, 0, -1);
  }
  if (brightening.length < FEWEST_PLACES) return true;
  if (quantile(brightening, 0.25) < -LIGHTER_INSIDE) return false;
  const darkening = Math.max(0, quantile(brightening, DARKENED_SHARE));
  return quantile(changeOfHue, 0.5) <= CHANGE_OF_HUE + CHANGE_WITH_DARKENING * darkening;
}

/** Linear light of a pixel by its features. */
function lightAt(features: Float32Array, i: number): { luma: number; red: number; blue: number } {
  const luma = features[FEATURES * i]!;
  const linear = (value: number): number => LINEAR_FROM_BYTE[Math.max(1, Math.min(255, Math.round(value)))]!;
  return {
    luma: linear(luma),
    blue: linear(features[FEATURES * i + 1]! / 1.2 + luma),
    red: linear(features[FEATURES * i + 2]! / 1.2 + luma),
  };
}

const quantile = (values: number[], share: number): number =>
  values.sort((a, b) => a - b)[Math.floor(share * values.length)]!;
