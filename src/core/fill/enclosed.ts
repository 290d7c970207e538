/** 1 where a pixel of a hole (non-zero) has known ones on both sides, in its row or in its column; O(pixels). */
export function enclosed(isHole: Uint8Array, width: number, height: number): Uint8Array {
  const sides = new Uint8Array(isHole.length);
  const walk = (start: number, step: number, count: number, bit: number): void => {
    let hasKnown = false;
    for (let k = 0, i = start; k < count; k++, i += step) {
      if (!isHole[i]) hasKnown = true;
      else if (hasKnown) sides[i]! |= bit;
    }
  };
  for (let y = 0; y < height; y++) {
    walk(y * width, 1, width, 1);
    walk(y * width + width - 1, -1, width, 2);
  }
  for (let x = 0; x < width; x++) {
    walk(x, width, height, 4);
    walk((height - 1) * width + x, -width, height, 8);
  }
  return sides.map((bits) => ((bits & 3) === 3 || (bits & 12) === 12 ? 1 : 0));
}
