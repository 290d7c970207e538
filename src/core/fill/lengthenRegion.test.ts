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

test('only the thing is carried on where it is told from what lies around it', () => {
  const grain = noise(7, 3);
  // A dark pole before light ground on the left, and before dark ground with a bright square on the right.
  const isPole = (x: number, y: number) => x < 160 && Math.abs(y - 150) < 10;
  const isSquare = (x: number, y: number) => x >= 190 && x < 220 && y >= 125 && y < 135;
  const photo = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isPole(x, y)) return [60 + g, 40 + g, 30 + g];
    if (isSquare(x, y)) return [240 + g, 220 + g, 60 + g];
    return x < 180 ? [200 + g, 195 + g, 185 + g] : [90 + g, 120 + g, 100 + g];
  });
  const mark = maskOf(WIDTH, HEIGHT, (x, y) => x > 80 && x < 170 && y > 120 && y < 180);
  const thing = maskOf(WIDTH, HEIGHT, (x, y) => isPole(x, y) && mark.data[y * WIDTH + x]! > 0);
  const input = { image: photo, mark, pull: { dx: 70, dy: 0 }, choice: 0, sameSize: true };
  const made = (own: typeof thing | undefined): RasterImage => {
    const { box, image } = lengthenRegion({ ...input, thing: own }, kernels);
    const out = { ...photo, data: photo.data.slice() };
    pasteImage(out, box, image);
    return out;
  };
  const at = ({ data }: RasterImage, x: number, y: number): number[] =>
    Array.from(data.subarray(4 * (y * WIDTH + x), 4 * (y * WIDTH + x) + 3));
  const alone = made(thing);
  expect(at(alone, 205, 150)[0]).toBeLessThan(90);
  expect(at(alone, 205, 130)).toEqual(at(photo, 205, 130));
  expect(at(alone, 205, 170)).toEqual(at(photo, 205, 170));
  // With all that is marked the square is covered by light ground.
  expect(at(made(undefined), 205, 130)[2]).toBeGreaterThan(120);
});

test('edges that meet before the place it is pulled to tell no perspective', () => {
  const wedge = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const share = (x - MEETING.x) / Math.max(1, y - 90);
    return y > 110 && Math.abs(share) < 0.5 && Math.floor((share + 0.5) * 12) % 2 === 0
      ? [220, 200, 170]
      : [90, 110, 120];
  });
  const mark = maskOf(WIDTH, HEIGHT, (x, y) => y > 106 && y < 240 && Math.abs(x - MEETING.x) < 90);
  const inPerspective = (dy: number): boolean =>
    lengthenRegion({ image: wedge, mark, pull: { dx: 0, dy }, choice: 0, sameSize: false }, kernels).inPerspective;
  expect(inPerspective(-10)).toBe(true);
  expect(inPerspective(-60)).toBe(false);
});
