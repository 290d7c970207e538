import { readFileSync } from 'node:fs';
import { contoursOfPath } from '../../core/mask/outlinePath.ts';
import { outlineText, readFace } from './outlineText.ts';

const bytesOf = (name: string): ArrayBuffer => {
  const file = readFileSync(new URL(`../../../node_modules/@fontsource/${name}.woff`, import.meta.url));
  return file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer;
};
const FACE = readFace([bytesOf('lora/files/lora-latin-400-normal'), bytesOf('lora/files/lora-latin-ext-400-normal')]);
const LEFT = { align: 'left', lineHeight: 1.2 } as const;

/** The box of an outline's points. */
function boxOf(outline: string) {
  const points = contoursOfPath(outline, { scale: 1, x: 0, y: 0 }).flat();
  const xs = points.filter((_, i) => i % 2 === 0);
  const ys = points.filter((_, i) => i % 2 === 1);
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

test('letters stand in their block, upright and one after the other', () => {
  const { outline, block } = outlineText('Kiln', FACE, LEFT);
  const box = boxOf(outline);
  expect(block.height).toBe(1200);
  expect(box.left).toBeGreaterThanOrEqual(-20);
  expect(box.right).toBeLessThanOrEqual(block.width + 20);
  expect(box.top).toBeGreaterThan(0);
  expect(box.bottom).toBeLessThan(block.height);
  expect(boxOf(outlineText('KilnKiln', FACE, LEFT).outline).right).toBeGreaterThan(1.8 * box.right);
});

test('pairs are kerned', () => {
  const width = (text: string): number => outlineText(text, FACE, LEFT).block.width;
  expect(width('AV')).toBeLessThan(width('A') + width('V') - 20);
});

test('lines are set under each other, to the left, in the middle or to the right', () => {
  const first = (align: 'left' | 'centre' | 'right'): number => {
    const { outline } = outlineText('.\nPort Amsel', FACE, { ...LEFT, align });
    return contoursOfPath(outline, { scale: 1, x: 0, y: 0 })[0]![0]!;
  };
  const { width } = outlineText('Port Amsel', FACE, LEFT).block;
  expect(first('left')).toBeLessThan(0.1 * width);
  expect(Math.abs(first('centre') - width / 2)).toBeLessThan(0.1 * width);
  expect(first('right')).toBeGreaterThan(0.9 * width);
  expect(outlineText('a\nb\nc', FACE, LEFT).block.height).toBe(3600);
});

test('letters beyond the usual ones come from the second file, however they are composed', () => {
  const { outline } = outlineText('ő', FACE, LEFT);
  expect(outline.length).toBeGreaterThan(50);
  expect(outlineText('o\u030b', FACE, LEFT).outline).toBe(outline);
});

test('a letter that is in none is named', () => {
  expect(() => outlineText('Amsel 漢', FACE, LEFT)).toThrow(
    'This typeface has no “漢”; choose another, or leave it out.',
  );
});

test('no text has no outline', () => {
  expect(outlineText('', FACE, LEFT).outline).toBe('');
});
