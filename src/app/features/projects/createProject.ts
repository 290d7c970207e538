import { nanoid } from '@reduxjs/toolkit';
import { recogniseSphere, type SphereGuess } from '../../../formats/metadata/recogniseSphere.ts';
import { sniffPicture } from '../../../formats/sniffPicture.ts';
import { EMPTY_DRAFT } from '../../../operations/draft.ts';
import { isMarked } from '../../../operations/draftBase.ts';
import type { FingoDatabase } from '../../../storage/database.ts';
import { saveProject, saveSource } from '../../../storage/projects.ts';
import type { Project } from '../../../storage/projectSchema.ts';
import { keepOpened } from '../../desk/openedPicture.ts';
import { openPicture } from '../../desk/pictureDesk.ts';
import { THUMBNAIL_PX } from './makeThumbnail.ts';

/**
 * Makes a project of a picture file: decodes it to be sure, then stores it unchanged, and keeps it open for working on
 * it. `begun` is what is begun in it.
 */
export async function createProject(
  db: FingoDatabase,
  file: File,
  begun: Partial<Pick<Project, 'draft' | 'keptMarks'>> = {},
): Promise<Project> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const { format, ...size } = sniffPicture(bytes, file.name);
  const guess = recogniseSphere(bytes, file.name, size);
  const sphere = guess.kind === 'sphere' ? guess.placement : undefined;
  const picture = await openPicture(file, file.name, sphere);
  try {
    const { photo, key } = picture.source;
    const now = Date.now();
    const project: Project = {
      id: nanoid(),
      name: file.name.replace(/\.[^.]+$/, '').slice(0, 120) || 'Untitled',
      createdAt: now,
      updatedAt: now,
      source: {
        key,
        fileName: file.name,
        mediaType: format.mediaType,
        ...photo,
        bytes: file.size,
        ...sphereSource(guess),
      },
      steps: [],
      draft: EMPTY_DRAFT,
      keptMarks: [],
      past: [],
      future: [],
      ...(sphere ? keptByName(begun) : begun),
      thumbnail: await picture.thumbnail({ source: picture.source, patches: [] }, THUMBNAIL_PX),
    };
    await saveSource(db, key, file);
    await saveProject(db, project);
    keepOpened(picture);
    return project;
  } catch (error) {
    picture.close();
    throw error;
  }
}

/** On a sphere one begins by looking around: what was marked on the flat picture waits among the marks kept by name. */
const keptByName = ({ draft, keptMarks = [] }: Partial<Pick<Project, 'draft' | 'keptMarks'>>): Partial<Project> => ({
  keptMarks: draft && isMarked(draft) ? [{ name: 'Gaps', mark: draft.mark }, ...keptMarks] : keptMarks,
});

/** What a project remembers of whether its photo is a sphere. */
function sphereSource(guess: SphereGuess): Pick<Project['source'], 'sphere' | 'asksSphere' | 'sphereDoubt'> {
  if (guess.kind === 'sphere') return { sphere: guess.placement };
  if (guess.kind === 'doubtful') return { sphereDoubt: guess.message };
  return guess.kind === 'perhaps' ? { asksSphere: true } : {};
}
