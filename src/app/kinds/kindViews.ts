import type { KindView } from '../features/bench/kindView.ts';
import { borrowView } from './borrow/index.tsx';
import { clearView } from './clear/index.tsx';
import { duplicateView } from './duplicate/index.tsx';
import { enlargeView } from './enlarge/index.tsx';
import { lengthenView } from './lengthen/index.tsx';
import { moveView } from './move/index.tsx';
import { refineView } from './refine/index.tsx';
import { reframeView } from './reframe/index.tsx';
import { stretchView } from './stretch/index.tsx';
import { strokeClearView } from './strokeClear/index.tsx';
import { textView } from './text/index.tsx';
import { turnSphereView } from './turnSphere/index.tsx';

/** How each kind of step is seen and worked on; a new kind is one folder here and one line. */
export const KIND_VIEWS: readonly KindView[] = [
  clearView,
  moveView,
  duplicateView,
  lengthenView,
  borrowView,
  strokeClearView,
  refineView,
  reframeView,
  stretchView,
  enlargeView,
  textView,
  turnSphereView,
];
