import { z } from 'zod';
import { panoramaSettingsSchema, partSchema } from '../engine/stitchProtocol.ts';
import { guardedWrite, type FingoDatabase } from './database.ts';

// Files are large and rarely change, choices small and often: each is written by itself.

const framesSchema = z.object({
  frames: z.array(z.object({ id: z.string(), name: z.string(), blob: z.instanceof(Blob) })).max(254),
});
const choicesSchema = z.object({
  settings: panoramaSettingsSchema,
  crop: partSchema.optional(),
});

/** The frames on the Stitch screen. */
export type KeptFrames = z.infer<typeof framesSchema>['frames'];
/** What was chosen about them. */
export type StitchChoices = z.infer<typeof choicesSchema>;

export const saveFrames = async (db: FingoDatabase, frames: KeptFrames): Promise<void> => {
  await guardedWrite(() => db.put('stitching', { key: 'frames', frames }));
};

export const saveChoices = async (db: FingoDatabase, choices: StitchChoices): Promise<void> => {
  await guardedWrite(() => db.put('stitching', { key: 'choices', ...choicesSchema.parse(choices) }));
};

/** What was on the Stitch screen when the page was left; undefined where nothing was, or it can't be read. */
export async function loadStitching(
  db: FingoDatabase,
): Promise<{ frames: KeptFrames; choices: StitchChoices } | undefined> {
  const frames = framesSchema.safeParse(await db.get('stitching', 'frames'));
  if (!frames.success || frames.data.frames.length === 0) return undefined;
  const choices = choicesSchema.safeParse(await db.get('stitching', 'choices'));
  return {
    frames: frames.data.frames,
    choices: choices.success ? choices.data : { settings: panoramaSettingsSchema.parse({}) },
  };
}
