import { Command } from 'commander';
import { changePhoto, withChangeOptions, type ChangeOptions } from './changePhoto.ts';

export const clearCommand = (): Command =>
  withChangeOptions(new Command('clear'))
    .description('Take the marked thing out and rebuild what was behind it.')
    .action((photo: string, options: ChangeOptions) => changePhoto(photo, options, 'clear', {}));
