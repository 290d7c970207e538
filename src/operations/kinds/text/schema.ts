import { z } from 'zod';
import { markSchema } from '../../marks/markSchema.ts';
import { takeSchema } from '../../rebuild/rebuildSchema.ts';
import { viewSchema } from '../../sphere/viewSchema.ts';

export const LONGEST_TEXT = 2000;
export const SMALLEST_TEXT_PX = 4;

const coordinate = z.number().min(-1e5).max(1e5);
const extent = z.number().min(0).max(1e6);

export const textSchema = z.object({
  text: z.string().max(LONGEST_TEXT),
  /** Name of the typeface; the outline below is what counts. */
  face: z.string().max(60),
  align: z.enum(['left', 'centre', 'right']),
  /** From line to line, in letter sizes. */
  lineHeight: z.number().min(0.7).max(3),
  /** The letters' outline (absolute M, L, Q, C, Z), UNITS_PER_EM to their size, from the block's top left corner. */
  outline: z.string().max(4_000_000),
  /** The block's size in units. */
  block: z.object({ width: extent, height: extent }),
  /** Its top left corner, px of the picture. */
  x: coordinate,
  y: coordinate,
  sizePx: z.number().min(SMALLEST_TEXT_PX).max(20_000),
  colour: z.string().regex(/^#[0-9a-f]{6}$/i, 'A colour is written like #17697a.'),
  opacity: z.number().min(0).max(1),
  /** What stays in front of the letters. */
  behind: markSchema.optional(),
  view: viewSchema.optional(),
  take: takeSchema,
});

export type TextParams = z.infer<typeof textSchema>;
