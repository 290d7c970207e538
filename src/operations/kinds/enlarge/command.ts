import { FingoError } from '../../../core/errors.ts';
import type { StepCommand } from '../../kind.ts';

const SIDE = { is: 'number', least: 1, most: 30_000, whole: true } as const;

export const command: StepCommand = {
  name: 'enlarge',
  about: 'Give the whole photo another size; a side that is not given follows the other.',
  isMarked: false,
  hasTakes: false,
  options: [
    { flags: '--width <px>', about: 'new width', value: SIDE },
    { flags: '--height <px>', about: 'new height', value: SIDE },
  ],
  params(options, { image }) {
    const { width, height } = options as { width?: number; height?: number };
    if (width === undefined && height === undefined) {
      throw new FingoError('bad-arguments', 'Give --width or --height in px, or both.');
    }
    const scale = width === undefined ? height! / image.height : width / image.width;
    return {
      params: { width: width ?? Math.round(image.width * scale), height: height ?? Math.round(image.height * scale) },
    };
  },
};
