import type { StepCommand } from '../../kind.ts';
import { PLACING_OPTIONS, placingParams } from '../../rebuild/placingCommand.ts';
import { duplicate } from '../duplicate/index.ts';

export const command: StepCommand = {
  name: 'move',
  about: 'Put the marked subject elsewhere and rebuild its old place; with --copy the old place stays.',
  isMarked: true,
  hasTakes: true,
  options: [...PLACING_OPTIONS, { flags: '--copy', about: 'leave the original in place', value: { is: 'flag' } }],
  params: (options) => ({ ...(options.copy === true && { type: duplicate.type }), params: placingParams(options) }),
};
