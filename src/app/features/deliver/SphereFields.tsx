import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { SphereView } from '../../../core/sphere/sphereView.ts';
import type { SphereDelivery } from '../../../workers/picture.worker.ts';
import { AHEAD, NARROWEST, turned, WIDEST, type Direction } from '../bench/around/looking.ts';
import { PxSlider } from '../bench/card/PxSlider.tsx';

/** What is made of a sphere. */
export interface SphereChoice {
  kind: SphereDelivery['kind'];
  direction: Direction;
  /** Of a direct view. */
  size: { width: number; height: number };
}

const SIZES = [
  { width: 1920, height: 1080 },
  { width: 1080, height: 1080 },
  { width: 1080, height: 1350 },
  { width: 1080, height: 1920 },
  { width: 3840, height: 2160 },
];
export const PLANET: SphereChoice['size'] = { width: 2048, height: 2048 };

export const WHOLE_SPHERE: SphereChoice = { kind: 'sphere', direction: AHEAD, size: SIZES[0]! };

const KINDS: readonly { kind: SphereChoice['kind']; label: string; hint: string }[] = [
  {
    kind: 'sphere',
    label: 'The sphere',
    hint: 'All of it at its own size, with the metadata by which viewers know it.',
  },
  { kind: 'planet', label: 'A small planet', hint: 'Seen from above: the ground a disc, the sky around it.' },
  { kind: 'view', label: 'A direct view', hint: 'A flat picture of what one sees in one direction.' },
];

const nameOf = ({ width, height }: SphereChoice['size']): string => `${width} x ${height} px`;

/** How a choice is made into a file. `levelled`: whether the sphere was turned after it was taken. */
export function sphereDelivery({ kind, direction, size }: SphereChoice, levelled: boolean): SphereDelivery {
  if (kind === 'sphere') return { kind, levelled };
  if (kind === 'planet') return { kind, yaw: direction.yaw, sidePx: PLANET.width };
  const view: SphereView = { ...direction, roll: 0, ...size };
  return { kind, view };
}

/** What to make of a sphere, and from which direction. */
export function SphereFields({ choice, onChange }: { choice: SphereChoice; onChange: (next: SphereChoice) => void }) {
  const { kind, direction, size } = choice;
  const turn = (change: Partial<Direction>): void => onChange({ ...choice, direction: turned(direction, change) });
  const slider = (label: string, name: keyof Direction, min: number, max: number) => (
    <PxSlider
      label={label}
      unit="°"
      value={Math.round(direction[name])}
      min={min}
      max={max}
      onChange={(value) => turn({ [name]: value })}
    />
  );
  return (
    <>
      <TextField
        select
        size="small"
        label="What"
        value={kind}
        onChange={(event) => onChange({ ...choice, kind: event.target.value as SphereChoice['kind'] })}
      >
        {KINDS.map((each) => (
          <MenuItem key={each.kind} value={each.kind}>
            {each.label}
          </MenuItem>
        ))}
      </TextField>
      <Typography variant="body2" color="text.secondary">
        {KINDS.find((each) => each.kind === kind)!.hint}
      </Typography>
      {kind !== 'sphere' && slider(kind === 'planet' ? 'What is up' : 'Round', 'yaw', -180, 180)}
      {kind === 'view' && (
        <>
          {slider('Up or down', 'pitch', -90, 90)}
          {slider('Angle of view', 'fov', NARROWEST, WIDEST)}
          <TextField
            select
            size="small"
            label="Size of the view"
            value={nameOf(size)}
            onChange={(event) => {
              const next = SIZES.find((each) => nameOf(each) === event.target.value);
              if (next) onChange({ ...choice, size: next });
            }}
          >
            {SIZES.map((each) => (
              <MenuItem key={nameOf(each)} value={nameOf(each)}>
                {nameOf(each)}
              </MenuItem>
            ))}
          </TextField>
        </>
      )}
    </>
  );
}
