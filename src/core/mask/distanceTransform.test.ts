import fc from 'fast-check';
import { createMask } from './mask.ts';
import { squaredDistanceTo } from './distanceTransform.ts';

test('equals the distance found by trying every pixel', () => {
  const mask = fc.record({
    width: fc.integer({ min: 1, max: 9 }),
    height: fc.integer({ min: 1, max: 9 }),
    bits: fc.array(fc.boolean(), { minLength: 81, maxLength: 81 }),
  });
  fc.assert(
    fc.property(mask, ({ width, height, bits }) => {
      const m = createMask(width, height);
      for (let i = 0; i < m.data.length; i++) m.data[i] = bits[i] ? 255 : 0;
      const found = squaredDistanceTo(m, true);
      for (let i = 0; i < m.data.length; i++) {
        let nearest = 1e20;
        for (let j = 0; j < m.data.length; j++) {
          if (!bits[j]) continue;
          const dx = (i % width) - (j % width);
          const dy = Math.floor(i / width) - Math.floor(j / width);
          nearest = Math.min(nearest, dx * dx + dy * dy);
        }
        expect(found[i]).toBe(nearest);
      }
    }),
  );
});
