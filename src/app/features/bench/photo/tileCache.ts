import type { PictureDesk } from '../../../desk/pictureDesk.ts';

const MAX_TILES = 160;

export interface TileCache {
  /** The tile if it is there; else it is asked for, and `onArrival` is called when it comes. */
  get(picture: string, level: number, column: number, row: number): ImageBitmap | undefined;
  clear(): void;
}

/** Tiles of pictures, by name, the ones used longest ago dropped first. */
export function createTileCache(desk: PictureDesk, onArrival: () => void): TileCache {
  const tiles = new Map<string, ImageBitmap | 'asked'>();
  return {
    get(picture, level, column, row) {
      const key = `${picture}/${level}/${column}/${row}`;
      const tile = tiles.get(key);
      if (tile === 'asked') return undefined;
      if (tile) {
        tiles.delete(key);
        tiles.set(key, tile);
        return tile;
      }
      tiles.set(key, 'asked');
      const arrived = (bitmap: ImageBitmap): void => {
        tiles.set(key, bitmap);
        for (const [oldest, old] of tiles) {
          if (tiles.size <= MAX_TILES) break;
          if (old === 'asked') continue;
          tiles.delete(oldest);
          old.close();
        }
        onArrival();
      };
      // A tile that could not be made is asked for again when it is next needed.
      desk.tile(picture, level, column, row).then(arrived, () => tiles.delete(key));
      return undefined;
    },
    clear() {
      for (const tile of tiles.values()) if (tile !== 'asked') tile.close();
      tiles.clear();
    },
  };
}
