import type { PictureDesk } from '../../../desk/pictureDesk.ts';

const MOST_TILES = 160;

export interface TileCache {
  /** The tile if it is there; else it is asked for, and `onArrival` is called when it comes. */
  get(level: number, column: number, row: number): ImageBitmap | undefined;
  clear(): void;
}

/** Tiles of the original, the ones used longest ago dropped first. */
export function createTileCache(picture: PictureDesk, onArrival: () => void): TileCache {
  const tiles = new Map<string, ImageBitmap | 'asked'>();
  return {
    get(level, column, row) {
      const key = `${level}/${column}/${row}`;
      const tile = tiles.get(key);
      if (tile === 'asked') return undefined;
      if (tile) {
        tiles.delete(key);
        tiles.set(key, tile);
        return tile;
      }
      tiles.set(key, 'asked');
      void picture.tile(level, column, row).then((bitmap) => {
        tiles.set(key, bitmap);
        for (const [oldest, old] of tiles) {
          if (tiles.size <= MOST_TILES) break;
          if (old === 'asked') continue;
          tiles.delete(oldest);
          old.close();
        }
        onArrival();
      });
      return undefined;
    },
    clear() {
      for (const tile of tiles.values()) if (tile !== 'asked') tile.close();
      tiles.clear();
    },
  };
}
