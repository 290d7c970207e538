import { Command } from 'commander';
import { changePhoto, withChangeOptions, type ChangeOptions } from './changePhoto.ts';
import { parseShift } from './options.ts';

type LengthenOptions = ChangeOptions & { by: { dxPx: number; dyPx: number } };

export const lengthenCommand = (): Command =>
  withChangeOptions(new Command('lengthen'))
    .description('Pull the marked end of a thing further; what lies behind it in the mark runs on.')
    .requiredOption('--by <dx,dy>', 'px to the right and down', parseShift)
    .action((photo: string, options: LengthenOptions) => changePhoto(photo, options, 'lengthen', { by: options.by }));
