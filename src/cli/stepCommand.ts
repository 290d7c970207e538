import { Command, Option } from 'commander';
import { readFile, writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { FingoError } from '../core/errors.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Size } from '../core/image/rect.ts';
import type { SphereView } from '../core/sphere/sphereView.ts';
import { faceNamed, FACES } from '../formats/lettering/faceNames.ts';
import { openFace } from '../formats/lettering/node/faces.ts';
import { outlineText } from '../formats/lettering/outlineText.ts';
import { endingsInWords } from '../formats/formats.ts';
import { formatFor, maskOf, readMask, readPicture, writePicture } from '../formats/node/pictureFiles.ts';
import type { CommandOption, OptionValue } from '../operations/commandOptions.ts';
import type { CommandInput, StepCommand, StepParams } from '../operations/kind.ts';
import { kindOf } from '../operations/kinds.ts';
import type { Mark } from '../operations/marks/markSchema.ts';
import { markFromMask } from '../operations/marks/renderMark.ts';
import { MOST_LINES, planeSchema, runOnSchema } from '../operations/rebuild/rebuildSchema.ts';
import { viewOfMark } from '../operations/sphere/markInView.ts';
import { viewSchema } from '../operations/sphere/viewSchema.ts';
import { MAX_TAKES } from '../operations/takes.ts';
import { numberBetween, numbers, orAuto, parseRatio, parseShift, parseView } from './options.ts';
import { openWorkshop, pictureOf, writeTakes } from './writeTakes.ts';

type Given = Record<string, unknown>;

/** The options of all commands that work on a mark. */
interface MarkedOptions {
  mark: string;
  sphere?: boolean;
  view?: Pick<SphereView, 'yaw' | 'pitch' | 'fov'>;
  donors?: string;
  protect?: string;
  planes?: string;
  lines?: string;
  closeness?: number;
  light?: number;
}

/** The command of a kind of step: reads the photo, makes takes, writes the best (and the others beside it). */
export function stepCommand(type: string, step: StepCommand): Command {
  const command = new Command(step.name).description(step.about);
  command.argument('<photo>', step.isForSpheres ? 'a 360-degree picture' : 'JPEG, PNG, WebP or AVIF');
  if (step.isMarked) addMarkedOptions(command);
  if (step.hasTakes) {
    command
      .option('--takes <n>', 'how many takes to make; the best goes to --out', numberBetween(1, MAX_TAKES, true), 1)
      .option('--seed <n>', 'round of takes: another seed gives other takes', numberBetween(1, 1e9, true), 1);
  }
  step.options.forEach((option) => command.addOption(optionOf(option)));
  return command
    .requiredOption('--out <picture>', `file to write: ${endingsInWords()}`)
    .option('--report <json>', 'file to write times, memory and scores to')
    .action((photo: string, options: Given) => perform(photo, options, type, step));
}

const addMarkedOptions = (command: Command): Command =>
  command
    .requiredOption('--mark <mask>', 'what is meant: a greyscale picture of the photo’s size, white = marked')
    .option('--sphere', 'the photo is a 360-degree picture; it is worked on in a direct view that suits the mark')
    .option('--view <yaw,pitch,fov>', 'the direct view that all masks are pictures of, degrees', parseView)
    .option('--donors <mask>', 'where new pixels may come from')
    .option('--protect <mask>', 'what stays as it is')
    .option('--planes <json>', 'planes to rebuild along, as the planes command writes them')
    .option('--lines <json>', 'lines that run on, as the lines command writes them')
    .option('--closeness <0..100>', 'looser to closer', numberBetween(0, 100))
    .option('--light <0..100>', 'its own light to the place’s', numberBetween(0, 100));

function optionOf({ flags, about, value, required, default: usual }: CommandOption): Option {
  const option = new Option(flags, about);
  if (value.is === 'choice') option.choices(value.of);
  const parse = parserOf(value);
  if (parse) option.argParser(parse);
  if (usual !== undefined) option.default(usual);
  return required ? option.makeOptionMandatory() : option;
}

function parserOf(value: OptionValue): ((text: string) => unknown) | undefined {
  switch (value.is) {
    case 'number':
      return numberBetween(value.least, value.most, value.whole);
    case 'numbers':
      return numbers(value.count);
    case 'ratio':
      return parseRatio;
    case 'shift':
      return parseShift;
    case 'auto':
      return orAuto(parserOf(value.or)!);
    default:
      return undefined;
  }
}

async function perform(path: string, options: Given, type: string, step: StepCommand): Promise<void> {
  const { out, report: reportFile, takes = 1, seed = 1 } = options as Given & { out: string; report?: string };
  formatFor(out);
  const marked = step.isMarked ? (options as unknown as MarkedOptions) : undefined;
  const isSphere = step.isForSpheres || marked?.sphere === true || marked?.view !== undefined;
  const opened = await openWorkshop(path, isSphere);
  const { image, workshop } = opened;
  const about = marked && (await markedParams(marked, image, isSphere));
  const read = await withFiles(step, options, about?.size ?? image);
  const given = await step.params(read, inputOf(image));
  const kind = kindOf(given.type ?? type);
  const params = kind.schema.parse({
    ...about?.params,
    ...given.params,
    ...shadowInMark(about?.params.mark, read),
    take: { strategy: kind.strategies[0], seed },
  });
  const written = await writeTakes(opened, kind.type, params, { takes: Number(takes), seed: Number(seed), out });
  const best = async (): Promise<RasterImage> =>
    pictureOf(await workshop.after(workshop.origin, kind.type, params, written.takes[0]!.result));
  const extras = await step.extras?.(read, params, image, best);
  for (const picture of extras?.pictures ?? []) await writePicture(picture.out, picture.image);
  if (reportFile) await writeFile(reportFile, `${JSON.stringify({ ...written.report, ...extras?.report }, null, 2)}\n`);
}

/** Options with their files read: masks as marks, JSON as what it says. */
async function withFiles({ options: known }: StepCommand, options: Given, size: Size): Promise<Given> {
  const read = { ...options };
  for (const { flags, value } of known) {
    const name = new Option(flags).attributeName();
    const file = options[name];
    if (typeof file !== 'string') continue;
    if (value.is === 'mask') read[name] = markFromMask(await readMask(file, size, value.name));
    if (value.is === 'json') read[name] = await readJson(file);
  }
  return read;
}

/** What a mark's shadow is given by itself is marked, too. */
function shadowInMark(mark: Mark | undefined, { shadowMark }: Given): Partial<StepParams> {
  if (!mark || shadowMark === undefined) return {};
  const shapes = (shadowMark as Mark).shapes.map((shape) => ({ ...shape, combine: 'also' as const }));
  return { mark: { ...mark, shapes: [...mark.shapes, ...shapes] } };
}

/** What is marked, in which direct view, and how it is rebuilt; and the size of the masks. */
async function markedParams(options: MarkedOptions, image: RasterImage, isSphere: boolean) {
  const { view, size, mark } = isSphere
    ? await markOnSphere(options, image)
    : { view: undefined, size: image, mark: markFromMask(await readMask(options.mark, image, 'The mark')) };
  const { donors, protect, planes, lines, closeness, light } = options;
  const params = {
    mark,
    ...(view && { view }),
    ...(donors && { donors: markFromMask(await readMask(donors, size, 'The donor mask')) }),
    ...(protect && { protect: markFromMask(await readMask(protect, size, 'What is protected')) }),
    ...(planes && { planes: await readPlanes(planes) }),
    ...(lines && { runOn: await readLines(lines) }),
    ...(closeness !== undefined && { closeness }),
    ...(light !== undefined && { light }),
  };
  return { params, size };
}

async function readPlanes(path: string) {
  const planes = planeSchema
    .array()
    .max(8)
    .safeParse(await readJson(path));
  if (planes.success) return planes.data;
  throw new FingoError('bad-arguments', `"${basename(path)}" holds no planes; let the planes command write them.`);
}

async function readLines(path: string) {
  const lines = runOnSchema
    .array()
    .max(MOST_LINES)
    .safeParse(await readJson(path));
  if (lines.success) return lines.data;
  throw new FingoError('bad-arguments', `"${basename(path)}" holds no lines; let the lines command write them.`);
}

/** The direct view of a sphere that a change is made in, the size of its masks, and the mark in it. */
async function markOnSphere({ mark: path, view: asked }: MarkedOptions, sphere: RasterImage) {
  if (!asked) {
    const found = viewOfMark(markFromMask(await readMask(path, sphere, 'The mark')), sphere);
    return { ...found, size: found.view };
  }
  const { image } = await readPicture(path);
  const view = viewSchema.parse({ ...asked, width: image.width, height: image.height });
  return { view, size: view, mark: markFromMask(maskOf(image)) };
}

const inputOf = (image: RasterImage): CommandInput => ({
  image,
  faces: FACES,
  outlineText: async (text, face, layout) => outlineText(text, await openFace(faceNamed(face)), layout),
});

/** What a JSON file says. Throws `bad-arguments`. */
export async function readJson(path: string): Promise<unknown> {
  const text = await readFile(path, 'utf8').catch(() => {
    throw new FingoError('bad-arguments', `"${path}" can't be read; check the name and that the file is there.`);
  });
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new FingoError('bad-arguments', `"${basename(path)}" is no JSON file; check that it is the right one.`);
  }
}
