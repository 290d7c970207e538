import type { StepCommand } from '../../kind.ts';
import { PLACING_OPTIONS, placingParams } from '../../rebuild/placingCommand.ts';

export const command: StepCommand = {
  name: 'duplicate',
  about: 'Put a second one of the marked subject elsewhere.',
  isMarked: true,
  hasTakes: true,
  options: PLACING_OPTIONS,
  params: (options) => ({ params: placingParams(options) }),
};
