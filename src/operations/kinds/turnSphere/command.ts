import type { StepCommand } from '../../kind.ts';

export const command: StepCommand = {
  name: 'level',
  about: 'Set a 360-degree picture level, or turn it so that something else lies straight ahead.',
  isMarked: false,
  isForSpheres: true,
  hasTakes: false,
  options: [
    {
      flags: '--yaw <degrees>',
      about: 'by which the picture turns to the right',
      value: { is: 'number', least: -180, most: 180 },
      default: 0,
    },
    { flags: '--pitch <degrees>', about: 'up', value: { is: 'number', least: -90, most: 90 }, default: 0 },
    { flags: '--roll <degrees>', about: 'clockwise', value: { is: 'number', least: -180, most: 180 }, default: 0 },
  ],
  params: ({ yaw, pitch, roll }) => ({ params: { yaw, pitch, roll } }),
};
