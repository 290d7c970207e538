import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { fileSave } from 'browser-fs-access';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { serialiseError } from '../../../core/errors.ts';
import type { PictureFormat } from '../../../formats/browser/encodePicture.ts';
import type { Recipe } from '../../../operations/recipe.ts';
import type { Desk } from '../../desk/desk.ts';
import { useDesk } from '../../desk/ProjectGate.tsx';
import { useAppSelector } from '../../store/store.ts';
import { SURROUNDS } from '../../theme/viewSettings.ts';
import { inBytes } from './inBytes.ts';

/** The quality slider rests this long before the file is made anew. */
const SETTLE_MS = 300;

/** The finished picture as a file: format, quality, size before saving. */
export function DeliverPage() {
  const desk = useDesk();
  const project = useAppSelector((state) => state.bench.project!);
  const surround = useAppSelector((state) => state.viewSettings.surround);
  const [type, setType] = useState<PictureFormat['type']>('image/jpeg');
  const [quality, setQuality] = useState(90);
  const [name, setName] = useState(`${project.name}-recomposed`);
  const { made, trouble } = useEncoded(desk, type, quality);
  const [saveTrouble, setSaveTrouble] = useState('');
  const [saved, setSaved] = useState('');
  const src = useObjectUrl(made?.blob);
  const { width, height } = project.source;
  const ending = type === 'image/png' ? '.png' : '.jpg';

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
        <Button component={Link} to={`/p/${project.id}`} variant="text">
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
            p: 3,
            bgcolor: SURROUNDS[surround],
            display: 'grid',
            placeItems: 'center',
            minHeight: 0,
          }}
        >
          {src && (
            <Box
              component="img"
              src={src}
              alt={`The finished picture as ${type === 'image/png' ? 'PNG' : 'JPEG'}`}
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
            value={type}
            aria-label="Format"
            onChange={(_, next: PictureFormat['type'] | null) => next && setType(next)}
          >
            <ToggleButton value="image/jpeg">JPEG</ToggleButton>
            <ToggleButton value="image/png">PNG</ToggleButton>
          </ToggleButtonGroup>
          <Typography variant="body2" color="text.secondary">
            {type === 'image/png'
              ? 'Every pixel exactly as on the Bench; large.'
              : 'Small, for sending and for the web. Lower quality, smaller file.'}
          </Typography>
          {type === 'image/jpeg' && (
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
          <TextField
            size="small"
            label="File name"
            value={name}
            onChange={(event) => setName(event.target.value)}
            helperText={`Saved as a new file ${name.trim() || 'picture'}${ending}; the original stays as it is.`}
          />
          <Typography role="status" variant="body2">
            {made ? `${width} x ${height} px, ${inBytes(made.blob.size)}` : trouble ? '' : 'Making the file'}
          </Typography>
          <Button
            variant="contained"
            color="primary"
            disabled={!made}
            onClick={() => made && void save(made.blob, `${name.trim() || 'picture'}${ending}`)}
          >
            Save the picture
          </Button>
          <Button onClick={() => void saveRecipe()} disabled={project.steps.length === 0}>
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

/** The finished picture as a file, made anew when format or quality change. */
function useEncoded(desk: Desk, type: PictureFormat['type'], quality: number) {
  const [made, setMade] = useState<{ blob: Blob }>();
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    let current = true;
    setMade(undefined);
    setTrouble('');
    const timer = setTimeout(() => {
      const format: PictureFormat = type === 'image/png' ? { type } : { type, quality: quality / 100 };
      desk
        .finishedPatches()
        .then((patches) => desk.picture.encode(patches, format))
        .then((blob) => current && setMade({ blob }))
        .catch((error: unknown) => current && setTrouble(serialiseError(error).message));
    }, SETTLE_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [desk, type, quality]);
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
