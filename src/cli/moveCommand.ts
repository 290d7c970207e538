import { Command, Option } from 'commander';
import { changePhoto, withChangeOptions, type ChangeOptions } from './changePhoto.ts';
import { numberBetween, parseShift } from './options.ts';

interface MoveOptions extends ChangeOptions {
  by: { dxPx: number; dyPx: number };
  scale: number;
  turn: number;
  mirror?: 'h' | 'v';
  copy?: boolean;
  shadow: boolean;
  shadowStrength: number;
  horizon?: number;
}

export const moveCommand = (): Command =>
  withChangeOptions(new Command('move'))
    .description('Put the marked subject elsewhere and rebuild its old place; with --copy the old place stays.')
    .requiredOption('--by <dx,dy>', 'px to the right and down', parseShift)
    .option('--scale <factor>', 'size at the new place', numberBetween(0.05, 20), 1)
    .option('--turn <degrees>', 'clockwise', numberBetween(-180, 180), 0)
    .addOption(new Option('--mirror <axis>', 'h = left and right swapped, v = upside down').choices(['h', 'v']))
    .option('--copy', 'duplicate: leave the original in place')
    .option('--shadow-mark <mask>', 'its shadow: goes along as light, and is cleared from the old place')
    .option('--no-shadow', 'leave the shadow behind')
    .option('--shadow-strength <percent>', 'how dark it is at the new place', numberBetween(0, 200), 100)
    .option(
      '--horizon <y>',
      'its height, px from the top: the shadow keeps its direction on level ground',
      numberBetween(-1e5, 1e5),
    )
    .action((photo: string, options: MoveOptions) => {
      const mirror = options.mirror === 'h' ? 'horizontal' : options.mirror === 'v' ? 'vertical' : 'none';
      const turn = (options.turn * Math.PI) / 180;
      return changePhoto(photo, options, options.copy ? 'duplicate' : 'move', {
        placement: { ...options.by, scale: options.scale, turn, mirror },
        withShadow: options.shadow,
        shadowStrength: options.shadowStrength,
        ...(options.horizon !== undefined && { horizonPx: options.horizon }),
      });
    });
