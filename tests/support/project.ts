import { EMPTY_DRAFT } from '../../src/operations/draft.ts';
import type { Project } from '../../src/storage/projectSchema.ts';

/** A project of the quay as it is right after opening, with what a test wants otherwise. */
export const projectOf = (change: Partial<Project> = {}): Project => ({
  id: 'p',
  name: 'quay',
  createdAt: 1,
  updatedAt: 1,
  source: { key: 'k', fileName: 'quay.jpg', mediaType: 'image/jpeg', width: 2400, height: 1600, bytes: 9 },
  steps: [],
  draft: EMPTY_DRAFT,
  keptMarks: [],
  past: [],
  future: [],
  ...change,
});
