import type { StepCommand } from '../../kind.ts';

export const command: StepCommand = {
  name: 'clear',
  about: 'Take the marked thing out and rebuild what was behind it.',
  isMarked: true,
  hasTakes: true,
  options: [],
  params: () => ({ params: {} }),
};
