import type { Patch } from '../operation.ts';
import type { Mark } from './markSchema.ts';
import { markFromMask } from './renderMark.ts';

/** What is in a patch, by its alpha, as a mark. */
export function markOfPatch({ rect, image }: Patch): Mark {
  const data = new Uint8Array(rect.width * rect.height);
  for (let i = 0; i < data.length; i++) data[i] = image.data[4 * i + 3]!;
  return markFromMask({ width: rect.width, height: rect.height, data }, rect);
}
