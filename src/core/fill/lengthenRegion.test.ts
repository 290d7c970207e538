import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { pasteImage, type RasterImage } from '../image/rasterImage.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import { lengthenRegion } from './lengthenRegion.ts';

const [WIDTH, HEIGHT] = [400, 300];
const MEETING = { x: 210, y: 40 };
/** Its sides run towards the meeting point; its boards are equally wide on the ground. */
const halfWidth = (y: number) => 0.55 * (y - MEETING.y);
const isLight = (y: number) => Math.floor(6000 / (y - MEETING.y)) % 3 > 0;

/** A jetty on a level plane, from the lower edge of the picture to the row `end`. */
function jetty(end: number): RasterImage {
  const grain = noise(4, 6);
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    const [u, v] = [x + 0.5, y + 0.5];
    if (v < end || Math.abs(u - MEETING.x) > halfWidth(v)) return [90 + g, 120 + g, 130 + g];
    // A seam along the middle of each third shows where its lines lead.
    const share = ((u - MEETING.x) / halfWidth(v) + 1) * 1.5;
    if (Math.abs(share - Math.round(share)) < 0.06) return [60 + g, 50 + g, 40 + g];
    return isLight(v) ? [210 + g, 190 + g, 160 + g] : [130 + g, 105 + g, 80 + g];
  });
}

const END = 130;
const PHOTO = jetty(END);
const MARK = maskOf(WIDTH, HEIGHT, (x, y) => y > END - 4 && y < 240 && Math.abs(x - MEETING.x) < halfWidth(y) + 3);

/** Mean difference in green from the jetty that ends at `end`, over what it is to show. */
function offFrom(made: RasterImage, end: number): number {
  const truth = jetty(end);
  let [sum, count] = [0, 0];
  for (let y = end + 3; y < 236; y++) {
    for (let x = 0; x < WIDTH; x++) {
      if (Math.abs(x + 0.5 - MEETING.x) > halfWidth(y) - 2) continue;
      sum += Math.abs(made.data[4 * (y * WIDTH + x) + 1]! - truth.data[4 * (y * WIDTH + x) + 1]!);
      count++;
    }
  }
  return sum / count;
}

function lengthened(sameSize: boolean): { made: RasterImage; inPerspective: boolean } {
  const pull = { dx: 0, dy: -36 };
  const { box, image, inPerspective } = lengthenRegion(
    { image: PHOTO, mark: MARK, pull, choice: 0, sameSize },
    kernels,
  );
  const made = { ...PHOTO, data: PHOTO.data.slice() };
  pasteImage(made, box, image);
  return { made, inPerspective };
}

/** The row at which the jetty begins in the column of its meeting point. */
function endOf({ data }: RasterImage): number {
  const at = (y: number): number => 4 * (y * WIDTH + MEETING.x + 6);
  for (let y = 50; y < HEIGHT; y++) if (data[at(y)]! > data[at(y) + 2]!) return y;
  return HEIGHT;
}

test('a jetty drawn out towards the horizon keeps its sides, its lines and the step of its boards', () => {
  const { made, inPerspective } = lengthened(false);
  expect(inPerspective).toBe(true);
  const end = endOf(made);
  // 36 px were asked for; a few more or fewer keep the boards in step.
  expect(Math.abs(end - (END - 36))).toBeLessThanOrEqual(8);
  const off = offFrom(made, end);
  const straight = lengthened(true);
  expect(straight.inPerspective).toBe(false);
  expect(off).toBeLessThan(14);
  expect(off).toBeLessThan(0.5 * offFrom(straight.made, endOf(straight.made)));
});

test('pulled towards the camera it becomes larger with its sides', () => {
  const far = maskOf(WIDTH, HEIGHT, (x, y) => y > 128 && y < 206 && Math.abs(x - MEETING.x) < halfWidth(y) + 3);
  // What lies nearer than row 200 is water here.
  const photo = { ...PHOTO, data: PHOTO.data.slice() };
  for (let y = 200; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) photo.data.set([90, 120, 130], 4 * (y * WIDTH + x));
  }
  const pull = { dx: 0, dy: 50 };
  const { box, image, inPerspective } = lengthenRegion(
    { image: photo, mark: far, pull, choice: 0, sameSize: false },
    kernels,
  );
  expect(inPerspective).toBe(true);
  const widthAt = (y: number): number => {
    let count = 0;
    for (let x = 0; x < box.width; x++) {
      const i = 4 * ((y - box.y) * box.width + x);
      if (image.data[i]! > image.data[i + 2]! + 8) count++;
    }
    return count;
  };
  for (const y of [210, 225, 240]) expect(Math.abs(widthAt(y) - 2 * halfWidth(y))).toBeLessThanOrEqual(8);
});

test('a plane set by hand tells the perspective where no edges do', () => {
  // Boards from side to side, with nothing that leads away from the eye.
  const boards = (end: number): RasterImage =>
    pictureOf(WIDTH, HEIGHT, (_, y) =>
      y + 0.5 < end ? [90, 120, 130] : isLight(y + 0.5) ? [210, 190, 160] : [130, 105, 80],
    );
  const photo = boards(END);
  const mark = maskOf(WIDTH, HEIGHT, (x, y) => x > 100 && x < 320 && y > END - 4 && y < 240);
  const input = { image: photo, mark, pull: { dx: 0, dy: -36 }, choice: 0, sameSize: false };
  expect(lengthenRegion(input, kernels).inPerspective).toBe(false);
  const corner = (side: number, y: number) => ({ x: MEETING.x + side * halfWidth(y), y });
  const plane = { corners: [corner(-1, 140), corner(1, 140), corner(1, 260), corner(-1, 260)] as const };
  const { box, image, inPerspective } = lengthenRegion({ ...input, planes: [plane as PlaneCorners] }, kernels);
  expect(inPerspective).toBe(true);
  const column = Array.from({ length: box.height }, (_, y) => image.data[4 * (y * box.width + (205 - box.x)) + 1]!);
  const end = box.y + column.findIndex((green, k) => green > image.data[4 * (k * box.width + (205 - box.x)) + 2]!);
  const truth = boards(end);
  const off = column.slice(end - box.y + 3).map((green, k) => {
    return Math.abs(green - truth.data[4 * ((end + 3 + k) * WIDTH + 205) + 1]!);
  });
  expect(off.reduce((a, b) => a + b, 0) / off.length).toBeLessThan(16);
});

test('a pull of a few px lengthens by the shortest strip there is', () => {
  const { box, image } = lengthenRegion(
    { image: PHOTO, mark: MARK, pull: { dx: 0, dy: -4 }, choice: 0, sameSize: true },
    kernels,
  );
  expect(box.height).toBeGreaterThan(0);
  const made = { ...PHOTO, data: PHOTO.data.slice() };
  pasteImage(made, box, image);
  expect(END - endOf(made)).toBeGreaterThanOrEqual(4);
  expect(END - endOf(made)).toBeLessThanOrEqual(15);
});
