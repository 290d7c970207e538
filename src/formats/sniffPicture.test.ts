import sharp from 'sharp';
import { sniffPicture } from './sniffPicture.ts';

const grey = (width: number, height: number) => sharp({ create: { width, height, channels: 3, background: '#777' } });

test('tells type and size from the first bytes', async () => {
  expect(sniffPicture(await grey(40, 30).jpeg().toBuffer(), 'a.jpg')).toMatchObject({
    format: { name: 'JPEG' },
    width: 40,
    height: 30,
  });
  expect(sniffPicture(await grey(4, 3).png().toBuffer(), 'a.png').format.name).toBe('PNG');
  expect(sniffPicture(await grey(4, 3).webp().toBuffer(), 'a.webp').format.name).toBe('WebP');
});

test('what can’t be opened is refused with a sentence that says what to do', async () => {
  const text = new TextEncoder().encode('Dear diary, this is not a picture at all.');
  expect(() => sniffPicture(new Uint8Array(0), 'a.jpg')).toThrow('"a.jpg" is empty; save the picture again');
  expect(() => sniffPicture(text, 'a.jpg')).toThrow('"a.jpg" is not a JPEG, PNG, WebP or AVIF picture; open one');
  expect(() => sniffPicture(text, 'a.CR2')).toThrow(/raw or HEIC files.*export the photo as JPEG/);
  const tiff = await grey(4, 3).tiff().toBuffer();
  expect(() => sniffPicture(tiff, 'a.tif')).toThrow(/not a JPEG/);
});

test('a picture beyond 64 megapixels is told its size without being decoded', () => {
  // A PNG header that claims 12,000 x 9,000 px.
  const header = Uint8Array.from([
    0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52, 0, 0, 0x2e, 0xe0, 0, 0, 0x23,
    0x28, 8, 2, 0, 0, 0,
  ]);
  expect(() => sniffPicture(header, 'big.png')).toThrow(
    /12000 x 9000 px \(108 megapixels\).*up to 64. Save it smaller/,
  );
});
