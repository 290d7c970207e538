import { Command } from 'commander';
import { mkdir } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { requireSameSize } from '../core/image/rasterImage.ts';
import { writePicture } from '../formats/node/pictureFiles.ts';
import { stepFailed } from '../engine/workshop.ts';
import { kindOf } from '../operations/kinds.ts';
import { parseRecipe } from '../operations/recipe.ts';
import { readJson } from './stepCommand.ts';
import { openWorkshop, pictureOf } from './writeTakes.ts';

export const runCommand = (): Command =>
  new Command('run')
    .description('Apply a recipe to photos of the size it was made for; each result is written as PNG.')
    .argument('<recipe>', 'recipe file, JSON')
    .argument('<photos...>', 'photos')
    .requiredOption('--out-dir <folder>', 'folder to write to; made if missing')
    .action(async (recipePath: string, photos: string[], options: { outDir: string }) => {
      const recipe = parseRecipe(await readJson(recipePath));
      await mkdir(options.outDir, { recursive: true });
      const isForSpheres = recipe.steps.some(({ type, params }) => kindOf(type).turn || params.view);
      for (const path of photos) {
        const { image, workshop, metadata } = await openWorkshop(path, isForSpheres);
        requireSameSize(recipe.photo, image, `"${basename(path)}"`);
        const { renderings, failed } = await workshop.replay(recipe.steps, { signal: new AbortController().signal });
        if (failed) throw stepFailed(failed, recipe.steps);
        const out = join(options.outDir, `${basename(path, extname(path))}-recomposed.png`);
        await writePicture(out, await pictureOf(renderings.at(-1)!), metadata);
        process.stdout.write(`${out}\n`);
      }
    });
