import { imageSize } from 'image-size';
import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Size } from '../core/image/rect.ts';
import type { FileMetadata } from './metadata/fileMetadata.ts';

/** How a format is written. */
export interface FormatWriter {
  /** For what it is good, in a sentence or two. */
  about: string;
  isLossy: boolean;
  hasAlpha: boolean;
  /** Whether it is among the choices on the Deliver page; the command line writes it in any case. */
  isOffered: boolean;
  /** The command line's encoder and its settings; the browser's own needs no more than the media type. */
  sharp?: { format: 'png' | 'jpeg' | 'webp'; options: Record<string, unknown> };
  /** For formats that neither of them knows. `quality`: 0..1. */
  encode?(image: RasterImage, quality: number): Promise<Uint8Array<ArrayBuffer>>;
}

/** A format of picture files: everything that the browser and the command line know of it. */
export interface PictureFormat {
  /** As people call it. */
  name: string;
  mediaType: string;
  /** Of file names, in lower case; the first one is given to new files. */
  endings: readonly [string, ...string[]];
  /** The size as stored, before an orientation tag is honoured; undefined for files of another format. */
  recognise(bytes: Uint8Array): Size | undefined;
  /** Fewer pixels than Fingo opens in general, if that is all that this format can hold. */
  maxPixels?: number;
  /** For formats that browser and command line can't decode by themselves: upright, sRGB, straight RGBA. */
  decode?(bytes: Uint8Array<ArrayBuffer>): Promise<RasterImage>;
  writer?: FormatWriter;
  metadata?: {
    /** What a file tells beside its pixels; undefined for files of another format. */
    read(file: Uint8Array): FileMetadata | undefined;
    /** A freshly made file with metadata; its pixels stand upright, and so the Exif data say. */
    write(file: Uint8Array<ArrayBuffer>, metadata: FileMetadata): Uint8Array<ArrayBuffer>;
  };
}

/** Recognises what a well-known format calls its files by. */
export const bySignature =
  (type: string) =>
  (bytes: Uint8Array): Size | undefined => {
    try {
      const found = imageSize(bytes);
      return found.type === type ? { width: found.width, height: found.height } : undefined;
    } catch {
      return undefined;
    }
  };
