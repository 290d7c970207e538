/** What a picture file tells beside its pixels. */
export interface FileMetadata {
  /** The XMP packet (ISO 16684-1). */
  xmp?: string;
  /** The Exif data, from their TIFF header on. */
  exif?: Uint8Array;
}
