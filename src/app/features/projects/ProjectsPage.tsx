import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useSnackbar } from 'notistack';
import { useCallback, useEffect, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link, useNavigate } from 'react-router';
import { serialiseError } from '../../../core/errors.ts';
import { closeOpened } from '../../desk/openedPicture.ts';
import { useDatabase } from '../../store/databaseContext.ts';
import { useAppSelector, useAppStore } from '../../store/store.ts';
import { ViewMenu } from '../../theme/ViewMenu.tsx';
import { DEMO_PICTURES } from './demoPictures.ts';
import { PictureCard } from './PictureCard.tsx';
import { deleteProject, projectAddress, refreshProjects, restoreProject } from './projectActions.ts';
import type { Project } from '../../../storage/projectSchema.ts';
import { ProjectCard } from './ProjectCard.tsx';
import { useGrowing } from './useGrowing.ts';
import { StorageGauge } from './StorageGauge.tsx';

const GRID = { display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(268px, 1fr))', gap: 2.5 } as const;

/** All projects, large; a picture can be dropped, pasted or chosen anywhere, the demo set is one click away. */
export function ProjectsPage() {
  const db = useDatabase();
  const store = useAppStore();
  const navigate = useNavigate();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const { loaded, projects, damaged } = useAppSelector((state) => state.projects);
  const shown = useGrowing(projects);
  const [opening, setOpening] = useState('');
  const [troubles, setTroubles] = useState<string[]>([]);

  useEffect(() => void refreshProjects(store, db), [store, db]);

  const openFiles = useCallback(
    async (files: readonly File[]) => {
      if (files.length === 0) return;
      setTroubles([]);
      const failed: string[] = [];
      let last: Project | undefined;
      for (const file of files) {
        setOpening(file.name);
        try {
          const { createProject } = await import('./createProject.ts');
          last = await createProject(db, file);
        } catch (error) {
          failed.push(serialiseError(error).message);
        }
      }
      setOpening('');
      setTroubles(failed);
      await refreshProjects(store, db);
      if (files.length === 1 && last) await navigate(projectAddress(last.id, last.source.sphere !== undefined));
      else closeOpened();
    },
    [db, store, navigate],
  );

  const openDemo = async (file: string): Promise<void> => {
    setOpening(file);
    const answer = await fetch(`/demo/${file}`).catch(() => undefined);
    if (!answer?.ok) {
      setOpening('');
      setTroubles([`"${file}" could not be loaded; check that Fingo’s server is still running, then try again.`]);
      return;
    }
    await openFiles([new File([await answer.blob()], file, { type: 'image/jpeg' })]);
  };

  const dropzone = useDropzone({ onDrop: (files) => void openFiles(files), noClick: true, noKeyboard: true });

  useEffect(() => {
    const onPaste = (event: ClipboardEvent): void => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (files.length > 0) void openFiles(files);
    };
    addEventListener('paste', onPaste);
    return () => removeEventListener('paste', onPaste);
  }, [openFiles]);

  const remove = async (id: string, name: string): Promise<void> => {
    await deleteProject(store, db, id);
    enqueueSnackbar(`"${name}" is deleted.`, {
      action: (key) => (
        <Button
          variant="text"
          onClick={() => {
            closeSnackbar(key);
            void restoreProject(store, db, id);
          }}
        >
          Undo
        </Button>
      ),
    });
  };

  return (
    <Box {...dropzone.getRootProps()} sx={{ height: '100%', overflowY: 'auto', position: 'relative' }}>
      <input {...dropzone.getInputProps()} aria-label="Open photos" />
      <Box component="header" sx={{ display: 'flex', alignItems: 'center', gap: 1.5, px: 4, pt: 3, pb: 2 }}>
        <Box component="img" src="/icon.svg" alt="" sx={{ width: 32, height: 32 }} />
        <Typography component="h1" variant="h1">
          Fingo
        </Typography>
        <Typography color="text.secondary">Recompose a photo after it was taken</Typography>
        <Box sx={{ flex: 1 }} />
        <StorageGauge />
        <ViewMenu />
        <Button component={Link} to="/stitch">
          Stitch frames
        </Button>
        <Button variant="contained" color="primary" onClick={dropzone.open}>
          Open a photo
        </Button>
      </Box>
      <Box component="main" sx={{ px: 4, pb: 4, display: 'flex', flexDirection: 'column', gap: 3 }}>
        {opening && (
          <Box role="status">
            <Typography variant="body2">Opening {opening}</Typography>
            <LinearProgress aria-label={`Opening ${opening}`} />
          </Box>
        )}
        {troubles.map((trouble) => (
          <Alert key={trouble} severity="error" variant="outlined" sx={{ color: 'text.primary' }}>
            {trouble}
          </Alert>
        ))}
        {damaged > 0 && (
          <Alert severity="warning" variant="outlined" sx={{ color: 'text.primary' }}>
            {damaged === 1 ? 'One project' : `${damaged} projects`} can’t be read by this version of Fingo; nothing of
            it was changed. Open it with the version that made it.
          </Alert>
        )}
        <section aria-label="Projects">
          <Typography component="h2" variant="h2" sx={{ mb: 1.5 }}>
            Your projects
          </Typography>
          {loaded && projects.length === 0 ? (
            <Box
              sx={{
                border: 1,
                borderStyle: 'dashed',
                borderColor: 'text.secondary',
                borderRadius: 1,
                p: 4,
                textAlign: 'center',
              }}
            >
              <Typography>Drop a photo here, paste one, or open one from your disk.</Typography>
              <Typography color="text.secondary" sx={{ mt: 0.5 }}>
                JPEG, PNG, WebP or AVIF, up to 64 megapixels, worked on in 8 bits a channel (16 are reduced). It stays
                in this browser, and the original is never changed.
              </Typography>
            </Box>
          ) : (
            <Box sx={GRID}>
              {shown.map((project) => (
                <ProjectCard
                  key={project.id}
                  project={project}
                  onDelete={() => void remove(project.id, project.name)}
                />
              ))}
            </Box>
          )}
        </section>
        <section aria-label="Demo pictures">
          <Typography component="h2" variant="h2">
            Demo pictures: Port Amsel
          </Typography>
          <Typography variant="body2" color="text.secondary" sx={{ mb: 1.5 }}>
            A pottery town that does not exist, rendered for Fingo. Each opens as a new project.
          </Typography>
          <Box sx={GRID}>
            {DEMO_PICTURES.map(({ file, title, idea }) => (
              <PictureCard
                key={file}
                src={`/demo/small/${file}`}
                title={title}
                line={idea}
                label={`Open the demo picture ${title}`}
                onOpen={() => void openDemo(file)}
              />
            ))}
          </Box>
        </section>
      </Box>
      {dropzone.isDragActive && (
        <Box
          sx={{
            position: 'fixed',
            inset: 16,
            border: 3,
            borderColor: 'primary.main',
            borderRadius: 1,
            bgcolor: 'background.paper',
            opacity: 0.92,
            display: 'grid',
            placeContent: 'center',
            pointerEvents: 'none',
          }}
        >
          <Typography variant="h1">Drop to open</Typography>
        </Box>
      )}
    </Box>
  );
}
