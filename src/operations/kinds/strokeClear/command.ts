import { z } from 'zod';
import { FingoError } from '../../../core/errors.ts';
import type { StepCommand } from '../../kind.ts';

const strokeSchema = z.array(z.tuple([z.number(), z.number()])).min(1);

export const command: StepCommand = {
  name: 'stroke',
  about: 'Clear what a stroke of the brush goes over: a cable, a pole, a speck.',
  isMarked: false,
  hasTakes: true,
  options: [
    {
      flags: '--along <json>',
      about: 'file with the stroke: [[x, y], ...] in px of the photo',
      value: { is: 'json' },
      required: true,
    },
    {
      flags: '--radius <px>',
      about: 'half the brush’s width',
      value: { is: 'number', least: 0.5, most: 4000 },
      default: 12,
    },
  ],
  params({ along, radius }) {
    const stroke = strokeSchema.safeParse(along);
    if (!stroke.success) {
      throw new FingoError('bad-arguments', 'The stroke can’t be used; give it as [[x, y], ...] in px of the photo.');
    }
    const shape = {
      kind: 'stroke',
      combine: 'startOver',
      points: stroke.data.flat(),
      radiusPx: radius,
      hardness: 1,
      intensity: 1,
    };
    return { params: { mark: { shapes: [shape] } } };
  },
};
