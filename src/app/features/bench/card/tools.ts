import type { MarkTool } from '../../../state/benchState.ts';
import type { KindView } from '../kindView.ts';

export interface Tool {
  tool: MarkTool;
  label: string;
  key: string;
  /** What to do with it, said while nothing is marked. */
  hint: string;
}

const TOOLS: readonly Tool[] = [
  {
    tool: 'lasso',
    label: 'Lasso',
    key: 'L',
    hint: 'Draw loosely around what should change, its shadow included. Leave a little room around it.',
  },
  { tool: 'corners', label: 'Corners', key: 'C', hint: 'Touch corner after corner; touch the first again to close.' },
  {
    tool: 'edges',
    label: 'Along edges',
    key: 'A',
    hint: 'Touch points around a thing: between them the outline clings to its edge. Touch the first again to close.',
  },
  { tool: 'box', label: 'Box', key: 'B', hint: 'Drag a box around what should change.' },
  { tool: 'ellipse', label: 'Ellipse', key: 'E', hint: 'Drag an ellipse around what should change.' },
  {
    tool: 'brush',
    label: 'Brush',
    key: 'P',
    hint: 'Paint over what should change, its shadow included. A little too much does no harm.',
  },
  { tool: 'reach', label: 'Colour', key: 'R', hint: 'Touch a colour: what is like it gets marked.' },
  {
    tool: 'subject',
    label: 'Subject',
    key: 'J',
    hint: 'Draw loosely around a thing: its own outline is found inside.',
  },
];

/** All tools: those that mark, then those that are a kind of step at once. */
export const toolsOf = (kinds: readonly KindView[]): Tool[] => [
  ...TOOLS,
  ...kinds.flatMap(({ tool }) => (tool ? [tool] : [])),
];

/** Whether what is drawn with a tool becomes a step, and joins no mark. */
export const isKindTool = (tool: MarkTool): boolean => tool.startsWith('kind ');

/** Whether a tool paints with the brush; those of kinds do. */
export const hasBrush = (tool: MarkTool): boolean => tool === 'brush' || isKindTool(tool);
