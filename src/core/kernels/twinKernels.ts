import { addLanes, NO_LANES } from '../blend/gridSteps.ts';
import * as gridSteps from '../blend/gridSteps.ts';
import { costBand, searchBand, searchBands } from '../fill/correspondence.ts';
import { expandShift } from '../fill/expandShift.ts';
import { PATCH_RADIUS } from '../fill/level.ts';
import { averagePixel, peelTarget } from '../fill/peel.ts';
import { reduceRow } from '../fill/reduce.ts';
import { chargeBand } from '../fill/repeats.ts';
import { settleBand, voteBand, weighBand } from '../fill/vote.ts';
import { BAND_SAMPLED, resampleBand } from '../geometry/lanczosBand.ts';
import { blurPlane } from '../image/boxBlur.ts';
import { densityBand, gatherMoments, labelBand, shadeBand, type MixtureWork } from '../segment/mixtureBands.ts';
import { alternateBands, BAND_PIXELS, BAND_ROWS, bandCount } from './bands.ts';
import { workAlone, type Kernels } from './kernels.ts';
import type { Scratch } from './scratch.ts';

/** The kernels in plain TypeScript: what the others are measured against, and what runs where they cannot. */
export function createTwinKernels(): Kernels {
  const overRows = (height: number, body: (band: number) => void): void => {
    for (let band = 0; band < bandCount(height, BAND_ROWS); band++) body(band);
  };
  const alternating = (height: number, forward: boolean, body: (band: number) => void): void => {
    for (const { first, stride, count } of alternateBands(bandCount(height, BAND_ROWS), forward)) {
      for (let k = 0; k < count; k++) body(first + k * stride);
    }
  };
  const summed = (height: number, body: (band: number) => gridSteps.LaneSums): gridSteps.LaneSums => {
    let sums = NO_LANES;
    overRows(height, (band) => (sums = addLanes(sums, body(band))));
    return sums;
  };
  const overPicks = (work: MixtureWork, body: (work: MixtureWork, band: number) => void): void => {
    for (let band = 0; band < bandCount(work.picks.length, BAND_PIXELS); band++) body(work, band);
  };
  const scratch: Scratch = {
    bytes: (length) => new Uint8Array(length),
    ints: (length) => new Int32Array(length),
    floats: (length) => new Float32Array(length),
    doubles: (length) => new Float64Array(length),
    hold: () => () => undefined,
  };
  return {
    scratch,
    reset() {},
    search(level, field, pass) {
      const bands = searchBands(level, field, pass, scratch);
      for (let band = 0; band < bands.count; band++) searchBand(level, field, pass, bands, band);
    },
    measureCosts: (level, field) => overRows(level.height, (band) => costBand(level, field, band)),
    vote(level, field, perCost) {
      const targets = bandCount(level.targets.length, BAND_PIXELS);
      for (let band = 0; band < targets; band++) weighBand(level, field, perCost, band);
      const bands = bandCount(level.holePixels.length, BAND_PIXELS);
      for (let band = 0; band < bands; band++) voteBand(level, field, band);
      for (let band = 0; band < bands; band++) settleBand(level, band);
    },
    charge(level, uses, costs, unit) {
      const density = blurPlane(uses, level.width, level.height, PATCH_RADIUS, 1);
      overRows(level.height, (band) => chargeBand(level, density, costs, unit, band));
    },
    expand: expandShift,
    peel(level, peel, count) {
      for (let k = 0; k < count; k++) peelTarget(level, peel, k);
    },
    average(level, peel, pixels) {
      for (const pixel of pixels) averagePixel(level, peel, pixel);
    },
    reduce(strip, work, rows) {
      for (let row = 0; row < rows; row++) reduceRow(strip, work, row);
    },
    resample(work) {
      for (let band = 0; band < bandCount(work.pixels, BAND_SAMPLED); band++) resampleBand(work, band);
    },
    blur: blurPlane,
    blurInScratch: blurPlane,
    weighPicks: (work) => overPicks(work, densityBand),
    weighPicksInShade: (work) => overPicks(work, shadeBand),
    labelPicks: (work) => overPicks(work, labelBand),
    gatherMoments,
    smooth: (grid, forward) => alternating(grid.height, forward, (band) => gridSteps.smoothBand(grid, forward, band)),
    relax: gridSteps.relaxGrid,
    restrict: (grid, next) => overRows(next.height, (band) => gridSteps.restrictBand(grid, next, band)),
    prolong: (grid, next) => overRows(grid.height, (band) => gridSteps.prolongBand(grid, next, band)),
    multiply: (grid, vectors) => summed(grid.height, (band) => gridSteps.multiplyBand(grid, vectors, band)),
    advance: (grid, vectors, factor) =>
      summed(grid.height, (band) => gridSteps.advanceBand(grid, vectors, factor, band)),
    agreement: (grid, vectors) => summed(grid.height, (band) => gridSteps.agreementBand(grid, vectors, band)),
    redirect: (grid, vectors, factor) =>
      overRows(grid.height, (band) => gridSteps.redirectBand(grid, vectors, factor, band)),
    inBands: workAlone,
    beside: (work, input) => () => work.band(input, 0),
    share: (array) => array,
    reaches: () => true,
  };
}
