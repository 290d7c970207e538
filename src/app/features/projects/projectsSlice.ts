import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ProjectSummary } from '../../../storage/summary.ts';

interface ProjectsState {
  loaded: boolean;
  projects: ProjectSummary[];
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
