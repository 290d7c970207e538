import type { BandWork } from '../kernels/kernels.ts';
import { blockRows, rowsOf, type SystemWork } from './seamWork.ts';

/** The majority of the pixels of each of a band's blocks, by pairing off unlike ones. */
function blockGroupsBand(work: SystemWork, band: number): void {
  const { image, part, box, groups } = work.copied;
  const { side, top, width, columns } = work.blocks;
  const found = work.blockGroups;
  const { from, to } = rowsOf(work, band);
  const first = (Math.floor(from / side) - top) * width;
  const ahead = new Int32Array(blockRows(work.blocks) * width);
  for (let y = from; y < to; y++) {
    const blockRow = (Math.floor(y / side) - top) * width;
    const row = y * image.width + box.x;
    for (let x = 0; x < box.width; x++) {
      if (!part[row + x]) continue;
      const i = blockRow + columns[x]!;
      const group = groups[(y - box.y) * box.width + x]!;
      if (group === found[i]) ahead[i - first]!++;
      else if (ahead[i - first] === 0) {
        found[i] = group;
        ahead[i - first] = 1;
      } else ahead[i - first]!--;
    }
  }
}

export const BLOCK_GROUPS: BandWork<SystemWork> = { name: 'blockGroups', band: blockGroupsBand };
