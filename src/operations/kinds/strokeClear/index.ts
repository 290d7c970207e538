import { PLANES_ELSE_LARGE_PIECES } from '../../../core/fill/strategy.ts';
import { clearingKind } from '../../rebuild/clearingKind.ts';

/** The first by itself should do; what comes with further strokes differs from it with planes and without. */
const STRATEGIES = [
  PLANES_ELSE_LARGE_PIECES.name,
  'by colour and form',
  'lines first',
  'fine pieces',
  'along planes',
  'large pieces, lines first',
];

/** Clears what one stroke of the brush went over, as soon as it is released. */
export const strokeClear = clearingKind('strokeClear', STRATEGIES, {
  title: 'Stroke-clear',
  summary: 'Stroked away',
  isOffered: false,
});
