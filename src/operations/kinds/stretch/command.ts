import type { StepCommand } from '../../kind.ts';

const SIDE = { is: 'number', least: 16, most: 30_000, whole: true } as const;

export const command: StepCommand = {
  name: 'stretch',
  about: 'Widen or narrow the photo along its least noticeable paths.',
  isMarked: false,
  hasTakes: false,
  options: [
    { flags: '--width <px>', about: 'new width; the photo’s own if not given', value: SIDE },
    { flags: '--height <px>', about: 'new height; the photo’s own if not given', value: SIDE },
    {
      flags: '--keep <mask>',
      about: 'what keeps its shape: a greyscale picture of the photo’s size, white = kept',
      value: { is: 'mask', name: 'What is kept' },
    },
  ],
  params: ({ width, height, keep }, { image }) => ({
    params: { width: width ?? image.width, height: height ?? image.height, ...(keep !== undefined && { keep }) },
  }),
};
