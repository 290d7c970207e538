import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { fileSave } from 'browser-fs-access';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { Quad } from '../../../core/geometry/insetQuad.ts';
import type { Size } from '../../../core/image/rect.ts';
import type { Rendering } from '../../../engine/workshop.ts';
import type { Delivery } from '../../../workers/picture.worker.ts';
import { serialiseError } from '../../../core/errors.ts';
import { LOSSLESS, WRITABLE } from '../../../formats/formats.ts';
import { kindOf } from '../../../operations/kinds.ts';
import type { Recipe } from '../../../operations/recipe.ts';
import type { Desk } from '../../desk/desk.ts';
import { useDesk } from '../../desk/ProjectGate.tsx';
import { useAppSelector } from '../../store/store.ts';
import { SURROUNDS } from '../../theme/viewSettings.ts';
import { projectAddress } from '../projects/projectActions.ts';
import { deliveredSizes, sameSize } from './deliveredSizes.ts';
import { PlateFields, type PlateChoice } from './PlateFields.tsx';
import { isSphereSize } from '../../../operations/sphere/requireSphere.ts';
import { PLANET, sphereDelivery, SphereFields, WHOLE_SPHERE, type SphereChoice } from './SphereFields.tsx';
import { inBytes } from './inBytes.ts';

/** Drawn with a library of its own, fetched with the first sphere. */
const SpherePreview = lazy(async () => ({ default: (await import('./SpherePreview.tsx')).SpherePreview }));

const OFFERED = WRITABLE.filter(({ writer }) => writer.isOffered);

/** The quality slider rests this long before the file is made anew. */
const SETTLE_MS = 300;
/** A plate's rim over the photo, as wide as rebuilt margins overlap it. */
const PLATE_RIM_PX = 4;

/** The finished picture as a file: format, quality, size before saving. */
export function DeliverPage() {
  const desk = useDesk();
  const project = useAppSelector((state) => state.bench.project!);
  const surround = useAppSelector((state) => state.viewSettings.surround);
  const [type, setType] = useState(OFFERED[0]!.mediaType);
  const [quality, setQuality] = useState(90);
  const [name, setName] = useState(`${project.name}-recomposed`);
  const { finished, unfinished } = useFinished(desk);
  const computing = useAppSelector((state) => state.bench.recomputing);
  const own = finished?.rendering.source.photo;
  const [plate, setPlate] = useState<PlateChoice>({ on: false, rim: 'soft', rimPx: PLATE_RIM_PX });
  const [size, setSize] = useState<Size>();
  const [choice, setChoice] = useState(WHOLE_SPHERE);
  const isSphere = project.source.sphere !== undefined && own !== undefined && isSphereSize(own);
  const levelled = project.steps.some(({ type, enabled }) => enabled && kindOf(type).turn !== undefined);
  const isPlate = plate.on && finished?.photo !== undefined;
  const format = isPlate ? LOSSLESS : OFFERED.find(({ mediaType }) => mediaType === type)!;
  const delivery = useMemo(
    (): Delivery => ({
      ...(isPlate && { plate: { photo: finished.photo!, ...plate } }),
      ...(isSphere ? { sphere: sphereDelivery(choice, levelled) } : size && { size }),
    }),
    [finished, isPlate, plate, size, isSphere, choice, levelled],
  );
  const { made, trouble: notMade } = useEncoded(desk, finished?.rendering, format.mediaType, quality, delivery);
  const trouble = unfinished || notMade;
  const [saveTrouble, setSaveTrouble] = useState('');
  const [saved, setSaved] = useState('');
  const src = useObjectUrl(made?.blob);
  const [ending] = format.endings;

  const save = async (blob: Blob, fileName: string): Promise<void> => {
    setSaveTrouble('');
    try {
      await fileSave(blob, { fileName, extensions: [fileName.slice(fileName.lastIndexOf('.'))] });
      setSaved(`${fileName} is saved.`);
    } catch (error) {
      // Closing the file dialog is no trouble.
      if (error instanceof DOMException && error.name === 'AbortError') return;
      setSaveTrouble('The file could not be saved; check that the folder is writable and has room, then save again.');
    }
  };
  const saveRecipe = (): Promise<void> => {
    const { width, height } = project.source;
    const recipe: Recipe = { format: 'fingo-recipe', version: 1, photo: { width, height }, steps: project.steps };
    const blob = new Blob([JSON.stringify(recipe, null, 1)], { type: 'application/json' });
    return save(blob, `${project.name}-recipe.json`);
  };

  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <Box
        component="header"
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 1.5,
          px: 1.5,
          minHeight: 52,
          bgcolor: 'background.paper',
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Button component={Link} to={projectAddress(project.id, project.source.sphere !== undefined)} variant="text">
          Back to the Bench
        </Button>
        <Typography component="h1" variant="h1">
          Deliver {project.name}
        </Typography>
      </Box>
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
        <Box
          sx={{
            flex: 1,
            minWidth: 0,
            p: isSphere ? 0 : 3,
            bgcolor: SURROUNDS[surround],
            display: 'grid',
            placeItems: 'center',
            minHeight: 0,
          }}
        >
          {src && isSphere && choice.kind === 'sphere' && (
            <Suspense>
              <SpherePreview src={src} />
            </Suspense>
          )}
          {src && !(isSphere && choice.kind === 'sphere') && (
            <Box
              component="img"
              src={src}
              alt={`The finished picture as ${format.name}`}
              sx={{ maxWidth: '100%', maxHeight: '100%', minHeight: 0, objectFit: 'contain' }}
            />
          )}
        </Box>
        <Box
          component="aside"
          aria-label="File"
          sx={{
            width: 328,
            flexShrink: 0,
            overflowY: 'auto',
            p: 2.5,
            bgcolor: 'background.paper',
            borderLeft: 1,
            borderColor: 'divider',
            display: 'flex',
            flexDirection: 'column',
            gap: 2,
          }}
        >
          <ToggleButtonGroup
            exclusive
            fullWidth
            value={format.mediaType}
            disabled={isPlate}
            aria-label="Format"
            onChange={(_, next: string | null) => next && setType(next)}
          >
            {OFFERED.map(({ mediaType, name: called }) => (
              <ToggleButton key={mediaType} value={mediaType}>
                {called}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
          <Typography variant="body2" color="text.secondary">
            {format.writer.about}
          </Typography>
          {format.writer.isLossy && (
            <Box>
              <Typography id="quality" variant="body2">
                Quality {quality}
              </Typography>
              <Slider
                aria-labelledby="quality"
                min={30}
                max={100}
                value={quality}
                onChange={(_, value) => setQuality(value as number)}
              />
            </Box>
          )}
          {isSphere && <SphereFields choice={choice} onChange={setChoice} />}
          {own && !isSphere && (
            <TextField
              select
              size="small"
              label="Size"
              value={nameOf(size ?? own)}
              onChange={(event) => {
                const next = deliveredSizes(own).find((each) => nameOf(each) === event.target.value);
                setSize(next && !sameSize(next, own) ? next : undefined);
              }}
            >
              {deliveredSizes(own).map((each) => (
                <MenuItem key={nameOf(each)} value={nameOf(each)}>
                  {nameOf(each)}
                  {sameSize(each, own) ? ', as it is' : ''}
                </MenuItem>
              ))}
            </TextField>
          )}
          {finished?.photo && <PlateFields plate={plate} onChange={setPlate} />}
          <TextField
            size="small"
            label="File name"
            value={name}
            onChange={(event) => setName(event.target.value)}
            helperText={`Saved as a new file ${name.trim() || 'picture'}${ending}; the original stays as it is.`}
          />
          <Typography role="status" variant="body2">
            {made && own
              ? `${madeSize(isSphere ? choice : undefined, size ?? own)}, ${inBytes(made.blob.size)}`
              : trouble
                ? ''
                : computing >= 0
                  ? `Computing step ${computing + 1} of ${project.steps.length}`
                  : 'Making the file'}
          </Typography>
          <Button
            variant="contained"
            color="primary"
            disabled={!made}
            onClick={() => made && void save(made.blob, `${name.trim() || 'picture'}${ending}`)}
          >
            Save the picture
          </Button>
          <Button onClick={() => void saveRecipe()} disabled={project.steps.length === 0 || unfinished !== ''}>
            Save the steps as a recipe
          </Button>
          {saved && (
            <Typography role="status" variant="body2">
              {saved}
            </Typography>
          )}
          {(trouble || saveTrouble) && (
            <Alert severity="error" variant="outlined" sx={{ color: 'text.primary' }}>
              {trouble || saveTrouble}
            </Alert>
          )}
        </Box>
      </Box>
    </Box>
  );
}

const madeSize = (choice: SphereChoice | undefined, own: Size): string => {
  if (choice?.kind === 'planet') return nameOf(PLANET);
  return nameOf(choice?.kind === 'view' ? choice.size : own);
};

const nameOf = ({ width, height }: Size): string => `${width} x ${height} px`;

interface Finished {
  rendering: Rendering;
  /** Where the photo lies in it, if margins were added. */
  photo: Quad | undefined;
}

/** The finished picture, once everything that was being computed is there; or why there is none. */
function useFinished(desk: Desk): { finished: Finished | undefined; unfinished: string } {
  const [finished, setFinished] = useState<Finished>();
  const [unfinished, setUnfinished] = useState('');
  // What was being made when the Bench was left becomes a step here.
  const steps = useAppSelector((state) => state.bench.project!.steps);
  useEffect(() => {
    let current = true;
    setFinished(undefined);
    setUnfinished('');
    const finish = async (): Promise<void> => {
      try {
        const rendering = await desk.finished();
        const photo = await desk.photoInside();
        if (current) setFinished({ rendering, photo });
      } catch (error) {
        const { code, message } = serialiseError(error);
        const whatToDo = code === 'step-failed' ? ' Open it on the Bench, switch it off or remove it.' : '';
        if (current) setUnfinished(`${message}${whatToDo}`);
      }
    };
    void finish();
    return () => {
      current = false;
    };
  }, [desk, steps]);
  return { finished, unfinished };
}

/** The finished picture as a file, made anew when anything about it changes. */
function useEncoded(
  desk: Desk,
  rendering: Rendering | undefined,
  mediaType: string,
  quality: number,
  delivery: Delivery,
) {
  const [made, setMade] = useState<{ blob: Blob }>();
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    let current = true;
    setMade(undefined);
    setTrouble('');
    if (!rendering) return;
    const timer = setTimeout(() => {
      desk.picture
        .encode(rendering, { mediaType, quality: quality / 100 }, delivery)
        .then((blob) => current && setMade({ blob }))
        .catch((error: unknown) => current && setTrouble(serialiseError(error).message));
    }, SETTLE_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [desk, rendering, mediaType, quality, delivery]);
  return { made, trouble };
}

function useObjectUrl(blob: Blob | undefined): string | undefined {
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    if (!blob) return;
    const next = URL.createObjectURL(blob);
    setUrl(next);
    return () => URL.revokeObjectURL(next);
  }, [blob]);
  return url;
}
