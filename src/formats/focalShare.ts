import exifr from 'exifr';
import { z } from 'zod';

/** A frame of film that the "35 mm equivalent" refers to is this wide. */
const FILM_WIDTH_MM = 36;

const tags = z.object({ FocalLengthIn35mmFormat: z.number().min(4).max(2000) });

/** The focal length by the picture's longer side, where the file tells it (Exif 2.3, FocalLengthIn35mmFilm). */
export async function readFocalShare(file: string | Blob): Promise<number | undefined> {
  try {
    const parsed = tags.safeParse(await exifr.parse(file, ['FocalLengthIn35mmFormat']));
    return parsed.success ? parsed.data.FocalLengthIn35mmFormat / FILM_WIDTH_MM : undefined;
  } catch {
    // A file without metadata, or with broken ones, is measured by its picture alone.
    return undefined;
  }
}
