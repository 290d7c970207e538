import { blurColumnsBand, blurRowsBand } from './blur';
import {
  awaitGeneration,
  awaitHelpers,
  callHelpers,
  generation,
  join,
  kernel,
  leave,
  register,
  takeBand,
} from './control';
import { chargeBand } from './charge';
import { costBand, searchBand } from './correspondence';
import { expandShift } from './expand';
import {
  advanceBand,
  agreementBand,
  multiplyBand,
  prolongBand,
  redirectBand,
  relaxGrid,
  restrictBand,
  smoothBand,
} from './grid';
import { densityBand, gatherMoments, labelBand, shadeBand } from './mixture';
import { averagePixel, peelTarget } from './peel';
import { reduceRow } from './reduce';
import { resampleBand } from './resample';
import { settleBand, voteBand, weighBand } from './vote';

/** The numbers of the kernels are those of `KERNEL` in wasmKernels.ts. */
function dispatch(which: i32, band: i32): void {
  switch (which) {
    case 0:
      searchBand(band);
      break;
    case 1:
      costBand(band);
      break;
    case 2:
      voteBand(band);
      break;
    case 3:
      settleBand(band);
      break;
    case 4:
      reduceRow(band);
      break;
    case 5:
      smoothBand(band);
      break;
    case 6:
      restrictBand(band);
      break;
    case 7:
      prolongBand(band);
      break;
    case 8:
      multiplyBand(band);
      break;
    case 9:
      advanceBand(band);
      break;
    case 10:
      agreementBand(band);
      break;
    case 11:
      redirectBand(band);
      break;
    case 12:
      peelTarget(band);
      break;
    case 13:
      resampleBand(band);
      break;
    case 14:
      blurRowsBand(band);
      break;
    case 15:
      blurColumnsBand(band);
      break;
    case 16:
      densityBand(band);
      break;
    case 17:
      shadeBand(band);
      break;
    case 18:
      labelBand(band);
      break;
    case 19:
      gatherMoments();
      break;
    case 20:
      expandShift();
      break;
    case 21:
      weighBand(band);
      break;
    case 22:
      chargeBand(band);
      break;
    case 23:
      relaxGrid();
      break;
    case 24:
      averagePixel(band);
      break;
  }
}

function workBands(): void {
  const which = kernel();
  for (let band = takeBand(); band >= 0; band = takeBand()) dispatch(which, band);
}

/** Does all bands in this thread. */
export function runAlone(): void {
  workBands();
}

/** Does all bands together with the helpers that are quick enough; returns when the last is done. */
export function runTogether(): void {
  callHelpers();
  workBands();
  awaitHelpers();
}

/** What is ordered with this number is not the module's to do, but the core's own code's. */
const OWN_CODE: i32 = 255;

/** Makes this a helper thread; returns the generation that it serves from. */
export function enter(): i32 {
  register();
  return generation();
}

/**
 * A helper thread's life: wait, work, report; it ends with its thread. Returns, with the generation served, where bands
 * are to be done by the core's own code: the thread has joined then, and must leave.
 */
export function serve(seen: i32): i32 {
  let isOwnCode = false;
  while (!isOwnCode) {
    seen = awaitGeneration(seen);
    if (!join()) continue;
    isOwnCode = kernel() === OWN_CODE;
    if (isOwnCode) continue;
    workBands();
    leave();
  }
  return seen;
}

/** Zeroes memory, faster than code outside can where threads share it. */
export function clear(at: usize, bytes: usize): void {
  memory.fill(at, 0, bytes);
}

export { awaitHelpers, callHelpers, leave, takeBand };
