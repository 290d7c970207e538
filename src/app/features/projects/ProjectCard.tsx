import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { ProjectSummary } from '../../../storage/summary.ts';
import { useDatabase } from '../../store/databaseContext.ts';
import { useAppStore } from '../../store/store.ts';
import { PictureCard } from './PictureCard.tsx';
import { duplicateProject, projectAddress, renameProject } from './projectActions.ts';

/** Fields are fetched with the first one that is needed. */
const RenameField = lazy(async () => ({ default: (await import('./RenameField.tsx')).RenameField }));

/** One project: opened by its picture; renamed, duplicated and deleted below it. */
export function ProjectCard({ project, onDelete }: { project: ProjectSummary; onDelete: () => void }) {
  const db = useDatabase();
  const store = useAppStore();
  const navigate = useNavigate();
  const [newName, setNewName] = useState<string>();
  const src = useMemo(() => project.thumbnail && URL.createObjectURL(project.thumbnail), [project.thumbnail]);
  useEffect(() => () => (src ? URL.revokeObjectURL(src) : undefined), [src]);
  const { name, width, height, stepCount } = project;
  const count = stepCount === 0 ? 'no steps yet' : stepCount === 1 ? '1 step' : `${stepCount} steps`;
  const rename = async (): Promise<void> => {
    if (newName !== undefined && newName !== name) await renameProject(store, db, project.id, newName);
    setNewName(undefined);
  };
  return (
    <PictureCard
      src={src}
      title={name}
      line={`${width} x ${height} px, ${count}`}
      label={`Open the project ${name}`}
      onOpen={() => void navigate(projectAddress(project.id, project.isSphere))}
    >
      {newName === undefined ? (
        <Box sx={{ display: 'flex', gap: 0.5, mt: 0.5, ml: -1 }}>
          <Button size="small" variant="text" aria-label={`Rename ${name}`} onClick={() => setNewName(name)}>
            Rename
          </Button>
          <Button
            size="small"
            variant="text"
            aria-label={`Duplicate ${name}`}
            onClick={() => void duplicateProject(store, db, project.id)}
          >
            Duplicate
          </Button>
          <Button size="small" variant="text" color="error" aria-label={`Delete ${name}`} onClick={onDelete}>
            Delete
          </Button>
        </Box>
      ) : (
        <Suspense>
          <RenameField value={newName} onChange={setNewName} onDone={() => void rename()} />
        </Suspense>
      )}
    </PictureCard>
  );
}
