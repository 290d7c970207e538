import type { RasterImage } from '../../src/core/image/rasterImage.ts';
import type { Size } from '../../src/core/image/rect.ts';
import { rayThrough, rotationOf, type Camera } from '../../src/core/panorama/camera.ts';
import { squareFromMiddle } from '../../src/core/panorama/exposure.ts';
import { byteFromLinear } from '../../src/core/image/linearLight.ts';
import { pictureOf } from './pictures.ts';

// A world all around the camera, of soft blobs at several scales, and frames taken in it.

const DEGREES = Math.PI / 180;

export const cameraAt = (yaw: number, pitch: number, roll: number, focalPx: number, bend = 0): Camera => ({
  rotation: rotationOf({ yaw: yaw * DEGREES, pitch: pitch * DEGREES, roll: roll * DEGREES }),
  focalPx,
  bend,
});

function hash(x: number, y: number, z: number): number {
  let h = Math.imul(x, 0x9e3779b9) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 15), 0x27d4eb2f);
  return ((h ^ (h >>> 13)) >>> 0) / 2 ** 32;
}

const ease = (t: number): number => t * t * (3 - 2 * t);
const mix = (a: number, b: number, t: number): number => a + t * (b - a);

/** Value noise, 0 to 1; written out, as it is called some ten times a pixel. */
function blobs(x: number, y: number, z: number): number {
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  const z0 = Math.floor(z);
  const u = ease(x - x0);
  const v = ease(y - y0);
  return mix(sheet(x0, y0, z0, u, v), sheet(x0, y0, z0 + 1, u, v), ease(z - z0));
}

function sheet(x: number, y: number, z: number, u: number, v: number): number {
  const near = mix(hash(x, y, z), hash(x + 1, y, z), u);
  return mix(near, mix(hash(x, y + 1, z), hash(x + 1, y + 1, z), u), v);
}

/** Light (0 to 1, linear) that comes from a direction; `seed` names the world. */
export function lightFrom(x: number, y: number, z: number, seed = 0): [number, number, number] {
  const length = Math.sqrt(x * x + y * y + z * z);
  const at = (scale: number, shift: number): number =>
    blobs((x / length) * scale + shift + seed, (y / length) * scale, (z / length) * scale);
  const fine = 0.25 * at(14, 100) + 0.45 * at(40, 200) + 0.3 * at(90, 300);
  return [0.08 + 0.5 * fine, 0.08 + 0.4 * fine + 0.1 * at(9, 400), 0.1 + 0.3 * fine + 0.2 * at(6, 500)];
}

/** A frame taken in that world. */
export function shoot(camera: Camera, size: Size, { gain = 1, falloff = 0, seed = 0 } = {}): RasterImage {
  const ray = [0, 0, 0];
  const r = camera.rotation;
  return pictureOf(size.width, size.height, (x, y) => {
    rayThrough(x + 0.5, y + 0.5, size, camera, ray);
    const [a, b, c] = ray as [number, number, number];
    const light = lightFrom(
      r[0] * a + r[1] * b + r[2] * c,
      r[3] * a + r[4] * b + r[5] * c,
      r[6] * a + r[7] * b + r[8] * c,
      seed,
    );
    const factor = gain * Math.exp(falloff * squareFromMiddle(x + 0.5, y + 0.5, size));
    const byte = (value: number): number => Math.round(byteFromLinear(value * factor));
    return [byte(light[0]), byte(light[1]), byte(light[2])];
  });
}
