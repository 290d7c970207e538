import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { DEMO_PICTURES } from './demoPictures.ts';

const picture = (name: string) =>
  sharp(fileURLToPath(new URL(`../../../../demo/public/demo/${name}`, import.meta.url)));
const thumbnail = (name: string) => picture(name).resize(32, 32, { fit: 'fill' }).raw().toBuffer();

test.each(DEMO_PICTURES)(
  'the small picture of $title shows what its card opens, sharp on fine screens',
  async ({ file }) => {
    const { width, height } = await picture(`small/${file}`).metadata();
    expect(width).toBeGreaterThanOrEqual(600);
    expect(height).toBeGreaterThanOrEqual(400);
    const [whole, small] = await Promise.all([thumbnail(file), thumbnail(`small/${file}`)]);
    const apart = whole.reduce((sum, value, i) => sum + Math.abs(value - small[i]!), 0) / whole.length;
    expect(apart).toBeLessThan(3);
  },
);
