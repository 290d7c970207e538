import { FingoError } from '../../../core/errors.ts';
import { AS_TAKEN, type Upright } from '../../../core/geometry/frameGeometry.ts';
import { withEdges, withRatio } from '../../../core/geometry/frameRects.ts';
import { plateOf } from '../../../core/geometry/plate.ts';
import type { RasterImage } from '../../../core/image/rasterImage.ts';
import { wholeOf, type Rect } from '../../../core/image/rect.ts';
import { findUpright } from '../../../core/planes/findUpright.ts';
import type { StepCommand } from '../../kind.ts';
import { reframeSchema } from './schema.ts';
import { photoInFrame } from './vacancy.ts';

interface FrameOptions {
  ratio?: number;
  edges?: number[];
  level?: number | 'auto';
  square?: number[] | 'auto';
  rim?: number;
  passes?: number;
  plate?: string;
}

const RADIANS = Math.PI / 180;

export const command: StepCommand = {
  name: 'frame',
  about: 'Give the photo another frame: level, square up, cut, carry past its edges; what is vacant is rebuilt.',
  isMarked: false,
  hasTakes: true,
  options: [
    { flags: '--ratio <w:h>', about: 'widen to this ratio, like 4:5', value: { is: 'ratio' } },
    {
      flags: '--edges <l,t,r,b>',
      about: 'px more on each side; fewer if negative',
      value: { is: 'numbers', count: 4 },
    },
    {
      flags: '--level <degrees|auto>',
      about: 'turn clockwise, or by the photo’s lines',
      value: { is: 'auto', or: { is: 'number', least: -45, most: 45 } },
    },
    {
      flags: '--square <v,h|auto>',
      about: 'degrees to tilt down and aside, or by the photo’s lines',
      value: { is: 'auto', or: { is: 'numbers', count: 2 } },
    },
    {
      flags: '--rim <px>',
      about: 'how far the rebuilt part overlaps the photo',
      value: { is: 'number', least: 0, most: 400, whole: true },
      default: 4,
    },
    {
      flags: '--passes <n>',
      about: 'in how many steps outward',
      value: { is: 'number', least: 1, most: 6, whole: true },
      default: 1,
    },
    { flags: '--plate <png>', about: 'only the new margins, the photo’s place transparent', value: { is: 'file' } },
  ],
  params(given, { image }) {
    const options: FrameOptions = given;
    const frame = { ...uprightOf(image, options), rect: rectOf(image, options) };
    return { params: { frame, rimPx: options.rim, passes: options.passes } };
  },
  async extras(given, params, photo, best) {
    const { plate }: FrameOptions = given;
    const { frame, rimPx } = reframeSchema.parse(params);
    const inside = photoInFrame(frame, photo);
    return {
      pictures: plate ? [{ out: plate, image: plateOf(await best(), inside, 'soft', rimPx) }] : [],
      report: { frame },
    };
  },
};

function rectOf(image: RasterImage, { ratio, edges }: FrameOptions): Rect {
  const [left, top, right, bottom] = (edges ?? [0, 0, 0, 0]).map(Math.round);
  const rect = withEdges(wholeOf(image), { left: left!, top: top!, right: right!, bottom: bottom! });
  return ratio ? withRatio(rect, ratio, 'widen') : rect;
}

function uprightOf(image: RasterImage, { level, square }: FrameOptions): Upright {
  const found = level === 'auto' || square === 'auto' ? findUpright(image) : undefined;
  const untold = (what: string): FingoError =>
    new FingoError('bad-arguments', `The photo has too few straight lines to ${what} it by; give the degrees instead.`);
  if (square === 'auto') {
    if (!found?.square) throw untold('square up');
    return found.square;
  }
  if (level === 'auto' && found?.level === undefined) throw untold('level');
  const turn = level === 'auto' ? found!.level! : (level ?? 0) * RADIANS;
  return { ...AS_TAKEN, turn, pitch: (square?.[0] ?? 0) * RADIANS, yaw: (square?.[1] ?? 0) * RADIANS };
}
