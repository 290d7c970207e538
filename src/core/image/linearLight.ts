/** Linear light (0..1) of each sRGB-encoded byte, IEC 61966-2-1. */
export const LINEAR_FROM_BYTE: Float32Array = Float32Array.from({ length: 256 }, (_, byte) => {
  const v = byte / 255;
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
});

/** The sRGB-encoded value, 0..255 and not rounded, of a linear light value; clamped to [0, 1]. */
export function byteFromLinear(linear: number): number {
  const v = Math.max(0, Math.min(1, linear));
  return 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
}
