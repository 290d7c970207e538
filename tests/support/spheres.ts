import { expect, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { directionOnSphere } from '../../src/core/sphere/sphereView.ts';
import { AHEAD, viewLookedAt, type Direction } from '../../src/app/features/bench/around/looking.ts';
import { withFileMetadata } from '../../src/formats/metadata/readWrite.ts';
import { Bench, type PhotoPoint } from './bench.ts';
import { noise } from './pictures.ts';

const SMALL = { width: 800, height: 400 };

export const DEMO_SPHERE = { width: 4096, height: 2048 };

/** Around the tripod and its shadow on the demo sphere, seen straight down, in focal lengths from the middle. */
const TRIPOD: readonly (readonly [number, number])[] = [
  [-0.3, -0.2],
  [-0.22, -0.28],
  [0.6, -0.88],
  [0.9, -1.2],
  [1.04, -1.16],
  [0.5, -0.3],
  [0.34, -0.04],
  [0.14, 0.05],
  [0.04, 0.36],
  [-0.12, 0.36],
  [-0.12, 0.08],
  [-0.3, -0.1],
];

/** That loop in px of a view straight down. */
export function tripodLoop({ width, height }: { width: number; height: number }, fov: number): PhotoPoint[] {
  const focalPx = width / 2 / Math.tan((fov * Math.PI) / 360);
  return TRIPOD.map(([x, y]) => [width / 2 + x * focalPx, height / 2 + y * focalPx]);
}

/** A small sphere: a floor of tiles, a bright sky, a red post where left and right edge meet. */
export async function smallSphere(): Promise<Buffer> {
  const { width, height } = SMALL;
  const data = Buffer.alloc(width * height * 3);
  const grain = noise(3, 6);
  for (let i = 0; i < width * height; i++) {
    const [x, y, z] = directionOnSphere((i % width) + 0.5, Math.floor(i / width) + 0.5, SMALL);
    const g = grain();
    const isPost = Math.abs(x) < 0.06 && z < 0 && Math.abs(y) < 0.25;
    const isJoint = y > 0 && [x / y, z / y].some((at) => Math.abs(((((at * 2) % 1) + 1.5) % 1) - 0.5) < 0.06);
    const colour = y > 0 ? (isJoint ? [60, 58, 55] : [170, 160, 145]) : [150, 185, 220 + 20 * y];
    data.set(isPost ? [190 + g, 40, 40] : colour.map((value) => value + g), 3 * i);
  }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

/** A picture file with sphere tags of one's own choice. */
export function tagged(file: Buffer, tags: Record<string, string | number>): Buffer {
  const attributes = Object.entries(tags).map(([name, value]) => `GPano:${name}="${value}"`);
  const xmp =
    '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">' +
    `<rdf:Description rdf:about="" xmlns:GPano="http://ns.google.com/photos/1.0/panorama/" ${attributes.join(' ')}/>` +
    '</rdf:RDF></x:xmpmeta>';
  return Buffer.from(withFileMetadata(new Uint8Array(file), { xmp }));
}

/** What exiftool, which is not ours, tells of a file. */
export function toldByOthers(file: Buffer, name: string): Record<string, unknown> {
  const path = join(mkdtempSync(join(tmpdir(), 'fingo-sphere-')), name);
  writeFileSync(path, file);
  const text = execFileSync('exiftool', ['-json', '-n', path], { encoding: 'utf8' });
  return (JSON.parse(text) as Record<string, unknown>[])[0]!;
}

export async function openPictureFile(page: Page, name: string, buffer: Buffer): Promise<void> {
  await page.goto('/');
  await page.getByLabel('Open photos').setInputFiles({ name, mimeType: 'image/png', buffer });
  await page.waitForURL(/\/p\//);
}

/** The sphere is there to be looked at. */
export const lookedAt = (page: Page): Promise<void> =>
  expect(page.getByRole('application', { name: /sphere from its middle/ })).toHaveAttribute('data-state', 'shown');

/** Looks somewhere and goes to work there; the Bench is then that of the direct view. */
export async function workLooking(page: Page, to: Partial<Direction>, sphere = SMALL): Promise<Bench> {
  const direction = { ...AHEAD, ...to };
  const labels = { yaw: 'Round', pitch: 'Up or down', fov: 'Angle of view' };
  for (const [name, value] of Object.entries(to)) {
    await page.getByRole('slider', { name: labels[name as keyof Direction] }).fill(String(value));
  }
  const box = (await page.getByRole('application').boundingBox())!;
  await page.getByRole('button', { name: 'Work in this view' }).click();
  await expect(page.getByRole('application', { name: /^The photo/ })).toBeVisible();
  return new Bench(page, viewLookedAt(direction, box, sphere));
}
