import type { CommandOption } from '../commandOptions.ts';

/** The options of commands that put a subject elsewhere. */
export const PLACING_OPTIONS: readonly CommandOption[] = [
  { flags: '--by <dx,dy>', about: 'px to the right and down', value: { is: 'shift' }, required: true },
  {
    flags: '--scale <factor>',
    about: 'size at the new place',
    value: { is: 'number', least: 0.05, most: 20 },
    default: 1,
  },
  { flags: '--turn <degrees>', about: 'clockwise', value: { is: 'number', least: -180, most: 180 }, default: 0 },
  {
    flags: '--mirror <axis>',
    about: 'h = left and right swapped, v = upside down',
    value: { is: 'choice', of: ['h', 'v'] },
  },
  {
    flags: '--shadow-mark <mask>',
    about: 'its shadow: goes along as light, and is cleared from the old place',
    value: { is: 'mask', name: 'The shadow mask' },
  },
  { flags: '--no-shadow', about: 'leave the shadow behind', value: { is: 'flag' } },
  {
    flags: '--shadow-strength <percent>',
    about: 'how dark it is at the new place',
    value: { is: 'number', least: 0, most: 200 },
    default: 100,
  },
  {
    flags: '--horizon <y>',
    about: 'its height, px from the top: the shadow keeps its direction on level ground',
    value: { is: 'number', least: -1e5, most: 1e5 },
  },
];

/** The parameters that these options give. */
export function placingParams({
  by,
  scale,
  turn,
  mirror,
  shadow,
  shadowStrength,
  horizon,
  shadowMark,
}: Record<string, unknown>) {
  return {
    placement: {
      ...(by as object),
      scale,
      turn: ((turn as number) * Math.PI) / 180,
      mirror: mirror === 'h' ? 'horizontal' : mirror === 'v' ? 'vertical' : 'none',
    },
    withShadow: shadow,
    shadowStrength,
    ...(horizon !== undefined && { horizonPx: horizon }),
    ...(shadowMark !== undefined && { belongsNot: shadowMark }),
  };
}
