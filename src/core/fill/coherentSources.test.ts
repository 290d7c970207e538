import { kernels } from '../../../tests/support/kernels.ts';
import { levelOf } from '../../../tests/support/levels.ts';
import { noise } from '../../../tests/support/pictures.ts';
import { coherentSources, type PlaceOfHole } from './coherentSources.ts';
import type { Level } from './level.ts';
import type { CellShifts } from './offsetField.ts';

const WIDTH = 96;
const HEIGHT = 64;
const HOLE = { left: 40, right: 56, top: 10, bottom: 26 };
/** Two places to copy from, below the hole to the left and to the right. */
const FIRST = 30 * WIDTH - 24;
const SECOND = 30 * WIDTH + 24;

beforeEach(() => kernels.reset());

const isHole = (x: number, y: number): boolean => x >= HOLE.left && x < HOLE.right && y >= HOLE.top && y < HOLE.bottom;

const showing = (luma: (x: number, y: number) => number, isUsable?: (x: number, y: number) => boolean): Level =>
  levelOf(WIDTH, HEIGHT, luma, isHole, isUsable);

/** Sources for a field that copies every patch with the shift that `shiftAt` gives its centre. */
function sourcesWith(
  level: Level,
  shiftAt: (x: number, y: number) => number,
  factor = 1,
  place: PlaceOfHole = {},
): CellShifts {
  const field = { donor: kernels.scratch.ints(WIDTH * HEIGHT), cost: kernels.scratch.ints(WIDTH * HEIGHT) };
  for (const target of level.targets) {
    field.donor[target] = target + shiftAt(target % WIDTH, Math.floor(target / WIDTH));
  }
  return coherentSources(level, field, factor, kernels, place);
}

const shiftOf = ({ dx, dy, factor }: CellShifts, cell: number): number => (dy[cell]! * WIDTH + dx[cell]!) / factor;

const grain = noise(17, 90);
const grains = Array.from({ length: WIDTH * HEIGHT }, () => 120 + grain());
const grainAt = (x: number, y: number): number => grains[(((y % HEIGHT) + HEIGHT) % HEIGHT) * WIDTH + x]!;

test('where two places show the same, scattered cells come together to one piece', () => {
  // Both shifts are whole periods of the ground.
  const level = showing((x, y) => grainAt(x % 24, y % 30));
  const sources = sourcesWith(level, (x, y) => (((x >> 1) + (y >> 1)) % 2 ? FIRST : SECOND), 4);
  const found = new Set(Array.from(level.holePixels, (cell) => shiftOf(sources, cell)));
  expect(sources.factor).toBe(4);
  expect(found.size).toBe(1);
  expect([FIRST, SECOND]).toContain([...found][0]);
});

test('two pieces meet along the one line where both show what is wanted', () => {
  const lineAt = 46;
  // The first place is right up to the line, the second from there on; beyond it each shows something else.
  const level = showing((x, y) => {
    if (y < 30) return grainAt(x, y);
    const [column, isFirst] = x < WIDTH / 2 - 4 ? [x + 24, true] : [x - 24, false];
    const isRight = isFirst ? column <= lineAt + 1 : column >= lineAt - 1;
    return isRight ? grainAt(column, y - 30) : 250 - grainAt(column, y - 30);
  });
  const sources = sourcesWith(level, (x) => (x < lineAt + 3 ? FIRST : SECOND));
  const wrong = level.holePixels.filter((cell) => {
    const [shown, wanted] = [cell + shiftOf(sources, cell), cell];
    return level.features[4 * shown] !== level.features[4 * wanted];
  });
  expect(wrong.length).toBe(0);
});

test('a shift found often does not spread over what shows something else coarsely', () => {
  const isDark = (x: number): boolean => x < 51;
  const level = showing((x, y) => {
    const column = y < 30 ? x : x < WIDTH / 2 - 4 ? x + 24 : x - 24;
    return isDark(column) ? 40 : 200;
  });
  const sources = sourcesWith(level, (x) => (isDark(x) ? FIRST : SECOND));
  for (const cell of level.holePixels) {
    expect(level.features[4 * (cell + shiftOf(sources, cell))]).toBe(isDark(cell % WIDTH) ? 40 : 200);
  }
});

test('no cell takes over a shift from where nothing may be copied', () => {
  // Of the place most cells would take the last columns are not to be used.
  const isUsable = (x: number, y: number): boolean => !isHole(x, y) && !(x >= 26 && x < 40 && y >= 34);
  const level = showing((x, y) => grainAt(x % 24, y % 30), isUsable);
  const sources = sourcesWith(level, (x) => (x < 46 ? FIRST : SECOND));
  for (const cell of level.holePixels) expect(level.usable[cell + shiftOf(sources, cell)]).toBe(1);
});

test('a spot is cut out for what suits it better, but not where a plane’s stones are to stay whole', () => {
  const isSpot = (x: number, y: number): boolean => x >= 45 && x < 51 && y >= 15 && y < 21;
  // The first place shows what is wanted but for the spot, the second, a little too bright, without it.
  const level = showing((x, y) => {
    if (y < 30) return 120;
    if (x >= WIDTH / 2 - 4) return 122;
    return isSpot(x + 24, y - 30) ? 136 : 120;
  });
  const shiftAt = (x: number, y: number): number => (isSpot(x, y) ? SECOND : FIRST);
  const cut = [false, true].map((onPlane) => {
    const sources = sourcesWith(level, shiftAt, 1, { onPlane });
    return level.holePixels.filter((cell) => shiftOf(sources, cell) === SECOND).length;
  });
  expect(cut[0]).toBeGreaterThan(20);
  expect(cut[1]).toBe(0);
});

test('what has the mixed colours of an edge by chance gives way to the two things that meet there, but past the edge', () => {
  // Around the hole dark and bright meet sharply; the match made a ramp of it. Below lie both, and a grey between them.
  const [firstGrey, lastGrey] = [46, 49];
  const mixed = (x: number): number => Math.max(96, Math.min(144, 96 + 9.6 * (x - firstGrey + 1)));
  const level = showing((x, y) => {
    if (y >= 30) return x < WIDTH / 2 - 4 ? 96 : x < WIDTH / 2 + 16 ? 120 : 144;
    return y >= HOLE.top && y < HOLE.bottom ? mixed(x) : x < (firstGrey + lastGrey + 1) / 2 ? 96 : 144;
  });
  const shiftAt = (x: number): number => (x < firstGrey ? FIRST : x > lastGrey ? SECOND : 30 * WIDTH + 2);
  const greys = [false, true].map((pastEdge) => {
    const sources = sourcesWith(level, shiftAt, 1, { pastEdge });
    return level.holePixels.filter((cell) => level.features[4 * (cell + shiftOf(sources, cell))] === 120).length;
  });
  expect(greys[0]).toBe(0);
  expect(greys[1]).toBeGreaterThan(0);
});
