import type { StepCommand } from '../../kind.ts';

export const command: StepCommand = {
  name: 'borrow',
  about:
    'Remake the marked area out of another place of the photo, as it lies there; of two takes or more, one fitted in so that lines meet.',
  isMarked: true,
  hasTakes: true,
  options: [
    {
      flags: '--from <dx,dy>',
      about: 'where that place lies: px to the right and down of the mark',
      value: { is: 'shift' },
      required: true,
    },
  ],
  params: ({ from }) => ({ params: { from } }),
};
