import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Project } from '../../../storage/projectSchema.ts';

interface ProjectsState {
  loaded: boolean;
  projects: Project[];
  /** Records that this version can't read; they are kept. */
  damaged: number;
}

const initialState: ProjectsState = { loaded: false, projects: [], damaged: 0 };

/** The list of projects as it was last read from the database. */
export const projectsSlice = createSlice({
  name: 'projects',
  initialState,
  reducers: {
    projectsListed: (_, { payload }: PayloadAction<Omit<ProjectsState, 'loaded'>>) => ({ loaded: true, ...payload }),
  },
});

export const { projectsListed } = projectsSlice.actions;
