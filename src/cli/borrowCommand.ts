import { Command } from 'commander';
import { changePhoto, withChangeOptions, type ChangeOptions } from './changePhoto.ts';
import { parseShift } from './options.ts';

type BorrowOptions = ChangeOptions & { from: { dxPx: number; dyPx: number } };

export const borrowCommand = (): Command =>
  withChangeOptions(new Command('borrow'))
    .description(
      'Remake the marked area out of another place of the photo, as it lies there; of two takes or more, one fitted in so that lines meet.',
    )
    .requiredOption('--from <dx,dy>', 'where that place lies: px to the right and down of the mark', parseShift)
    .action((photo: string, options: BorrowOptions) => changePhoto(photo, options, 'borrow', { from: options.from }));
