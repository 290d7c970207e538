import type { StepCommand } from '../../kind.ts';

export const command: StepCommand = {
  name: 'refine',
  about: 'Make the marked part of what was rebuilt before anew.',
  isMarked: true,
  hasTakes: true,
  options: [],
  params: () => ({ params: {} }),
};
