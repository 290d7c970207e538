import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import exifr from 'exifr';
import sharp from 'sharp';
import { wholeSphere } from '../../core/sphere/placement.ts';
import { readFileMetadata, withFileMetadata } from './readWrite.ts';
import { recogniseSphere } from './recogniseSphere.ts';
import { readSphereTags, withSphereTags } from './sphereTags.ts';

const SIZE = { width: 64, height: 32 };
const WHOLE = wholeSphere(SIZE);
const folder = mkdtempSync(join(tmpdir(), 'fingo-metadata-'));

const plain = (type: 'jpeg' | 'png') =>
  sharp({ create: { ...SIZE, channels: 3, background: '#7a8' } })
    .toFormat(type)
    .toBuffer();
const bytesOf = async (type: 'jpeg' | 'png') => new Uint8Array(await plain(type));

/** What exiftool, which is not ours, reads in a file. */
function readByOthers(file: Uint8Array, ending: string): Record<string, unknown> {
  const path = join(folder, `file.${ending}`);
  writeFileSync(path, file);
  const text = execFileSync('exiftool', ['-json', '-n', path], { encoding: 'utf8' });
  return (JSON.parse(text) as Record<string, unknown>[])[0]!;
}

const packet = (attributes: string, inner = '') =>
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">` +
  `<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" ` +
  `xmlns:GPano="http://ns.google.com/photos/1.0/panorama/" ${attributes}>${inner}</rdf:Description></rdf:RDF></x:xmpmeta>`;

const tags = (width: number, height: number, change: Record<string, string | number> = {}): string =>
  Object.entries({
    ProjectionType: 'equirectangular',
    FullPanoWidthPixels: width,
    FullPanoHeightPixels: height,
    CroppedAreaImageWidthPixels: width,
    CroppedAreaImageHeightPixels: height,
    CroppedAreaLeftPixels: 0,
    CroppedAreaTopPixels: 0,
    ...change,
  })
    .map(([name, value]) => `GPano:${name}="${value}"`)
    .join(' ');

const tagged = async (xmp: string) => withFileMetadata(await bytesOf('jpeg'), { xmp });

test.each(['jpeg', 'png'] as const)('sphere tags in a %s are read by others as they were written', async (type) => {
  const file = withFileMetadata(await bytesOf(type), { xmp: withSphereTags(undefined, WHOLE) });
  expect(readByOthers(file, type)).toMatchObject({
    ProjectionType: 'equirectangular',
    UsePanoramaViewer: true,
    FullPanoWidthPixels: 64,
    FullPanoHeightPixels: 32,
    CroppedAreaImageWidthPixels: 64,
    CroppedAreaImageHeightPixels: 32,
    CroppedAreaLeftPixels: 0,
    CroppedAreaTopPixels: 0,
    ImageWidth: 64,
  });
  expect(readByOthers(file, type)).not.toHaveProperty('Warning');
  expect(
    (await sharp(file).raw().toBuffer()).equals(
      await sharp(await plain(type))
        .raw()
        .toBuffer(),
    ),
  ).toBe(true);
});

test('another reader finds the tags in a JPEG too', async () => {
  const read = (await exifr.parse(Buffer.from(await tagged(withSphereTags(undefined, WHOLE))), {
    xmp: true,
  })) as Record<string, unknown>;
  expect(read).toMatchObject({ ProjectionType: 'equirectangular', FullPanoWidthPixels: 64 });
});

test('what a packet told beside the sphere stays; outdated tags are corrected, in whichever form they stood', () => {
  const before = packet(
    `${tags(8000, 4000)} GPano:PosePitchDegrees="4" GPano:PoseHeadingDegrees="90" dc:format="image/jpeg"`,
    '<GPano:CroppedAreaTopPixels>17</GPano:CroppedAreaTopPixels><dc:creator>Port Amsel</dc:creator>',
  );
  const after = withSphereTags(before, WHOLE, true);
  expect(readSphereTags(after)).toMatchObject({ FullPanoWidthPixels: 64, CroppedAreaTopPixels: 0 });
  expect(after).toContain('Port Amsel');
  expect(after).toContain('PoseHeadingDegrees="90"');
  expect(after).not.toContain('PosePitch');
  expect(withSphereTags(before, WHOLE)).toContain('PosePitchDegrees="4"');
});

test('a packet that is no XML is replaced by one that is', () => {
  expect(readSphereTags(withSphereTags('<x:broken', WHOLE))).toMatchObject({ FullPanoWidthPixels: 64 });
  expect(readSphereTags('<x:broken')).toBeUndefined();
});

test('Exif data go along, told to be upright', async () => {
  const turned = await sharp(await plain('jpeg'))
    .withExif({ IFD0: { Orientation: '6', Copyright: 'Port Amsel' } })
    .withMetadata({ orientation: 6 })
    .toBuffer();
  const { exif } = readFileMetadata(new Uint8Array(turned));
  for (const type of ['jpeg', 'png'] as const) {
    const file = withFileMetadata(await bytesOf(type), { exif: exif! });
    expect(readByOthers(file, type)).toMatchObject({ Copyright: 'Port Amsel', Orientation: 1 });
    expect(readFileMetadata(file).exif).toHaveLength(exif!.length);
  }
});

test('a file without metadata, and what is no picture, are left as they are', async () => {
  const file = await bytesOf('jpeg');
  expect(withFileMetadata(file, {})).toBe(file);
  const text = new TextEncoder().encode('no picture');
  expect(withFileMetadata(text, { xmp: '<a/>' })).toEqual(text);
  expect(readFileMetadata(text)).toEqual({});
  expect(readFileMetadata(file.subarray(0, 40))).toEqual({});
});

test('a sphere is known by its tags, also when it was made smaller after they were written', async () => {
  const whole = { kind: 'sphere', placement: { full: SIZE, part: { x: 0, y: 0, ...SIZE } } };
  expect(recogniseSphere(await tagged(packet(tags(64, 32))), 'a', SIZE)).toEqual(whole);
  expect(recogniseSphere(await tagged(packet(tags(6400, 3200))), 'a', SIZE)).toEqual(whole);
});

test('a part of a sphere is placed by its tags', async () => {
  const change = {
    CroppedAreaImageWidthPixels: 640,
    CroppedAreaImageHeightPixels: 320,
    CroppedAreaLeftPixels: 100,
    CroppedAreaTopPixels: 50,
  };
  const guess = recogniseSphere(await tagged(packet(tags(1000, 500, change))), 'a', SIZE);
  const placement = { full: { width: 100, height: 50 }, part: { x: 10, y: 5, width: 64, height: 32 } };
  expect(guess).toEqual({ kind: 'sphere', placement });
  const again = await tagged(withSphereTags(undefined, placement));
  expect(recogniseSphere(again, 'a', SIZE)).toEqual(guess);
});

test('without tags the ratio alone raises the question', async () => {
  const file = await bytesOf('jpeg');
  expect(recogniseSphere(file, 'a', SIZE)).toEqual({ kind: 'perhaps' });
  expect(recogniseSphere(file, 'a', { width: 60, height: 32 })).toEqual({ kind: 'flat' });
});

test.each([
  ['incomplete', 'GPano:ProjectionType="equirectangular"', /incomplete/],
  ['another projection', tags(64, 32, { ProjectionType: 'cylindrical' }), /"cylindrical"/],
  ['another size', tags(64, 40), /don’t fit the size/],
  ['no sphere', tags(64, 32, { FullPanoHeightPixels: 64 }), /don’t fit the size/],
  ['beyond the sphere', tags(64, 32, { CroppedAreaLeftPixels: 9 }), /beyond the sphere/],
  ['nothing', tags(64, 32, { CroppedAreaImageWidthPixels: 0 }), /don’t fit the size/],
  ['text for numbers', tags(64, 32, { FullPanoWidthPixels: 'wide' }), /incomplete/],
  [
    'far too large',
    tags(640_000, 320_000, { CroppedAreaImageWidthPixels: 64, CroppedAreaImageHeightPixels: 32 }),
    /megapixels/,
  ],
])('tags that can’t be true (%s) are told in one sentence, and not followed', async (_, attributes, sentence) => {
  const guess = recogniseSphere(await tagged(packet(attributes)), 'sphere.jpg', SIZE);
  expect(guess.kind).toBe('doubtful');
  expect(guess.kind === 'doubtful' && guess.message).toMatch(sentence);
});
