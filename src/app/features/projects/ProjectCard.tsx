import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'react-redux';
import { useNavigate } from 'react-router';
import type { Project } from '../../../storage/projectSchema.ts';
import { useDatabase } from '../../store/databaseContext.ts';
import type { AppStore } from '../../store/store.ts';
import { PictureCard } from './PictureCard.tsx';
import { duplicateProject, projectAddress, renameProject } from './projectActions.ts';

/** One project: opened by its picture; renamed, duplicated and deleted below it. */
export function ProjectCard({ project, onDelete }: { project: Project; onDelete: () => void }) {
  const db = useDatabase();
  const store = useStore() as AppStore;
  const navigate = useNavigate();
  const [newName, setNewName] = useState<string>();
  const src = useMemo(() => project.thumbnail && URL.createObjectURL(project.thumbnail), [project.thumbnail]);
  useEffect(() => () => (src ? URL.revokeObjectURL(src) : undefined), [src]);
  const { name, source, steps } = project;
  const count = steps.length === 0 ? 'no steps yet' : steps.length === 1 ? '1 step' : `${steps.length} steps`;
  const rename = async (): Promise<void> => {
    if (newName !== undefined && newName !== name) await renameProject(store, db, project.id, newName);
    setNewName(undefined);
  };
  return (
    <PictureCard
      src={src}
      title={name}
      line={`${source.width} x ${source.height} px, ${count}`}
      label={`Open the project ${name}`}
      onOpen={() => void navigate(projectAddress(project))}
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
        <TextField
          autoFocus
          fullWidth
          size="small"
          label="New name"
          value={newName}
          onChange={(event) => setNewName(event.target.value)}
          onBlur={() => void rename()}
          onKeyDown={(event) => {
            if (event.key === 'Enter') void rename();
            if (event.key === 'Escape') setNewName(undefined);
          }}
          sx={{ mt: 1 }}
        />
      )}
    </PictureCard>
  );
}
