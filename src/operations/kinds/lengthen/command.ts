import type { StepCommand } from '../../kind.ts';

export const command: StepCommand = {
  name: 'lengthen',
  about: 'Pull the marked end of a thing further; its structure runs on.',
  isMarked: true,
  hasTakes: true,
  options: [
    {
      flags: '--by <dx,dy>',
      about: 'px by which the end is pulled, to the right and down',
      value: { is: 'shift' },
      required: true,
    },
  ],
  params: ({ by }) => ({ params: { by } }),
};
