import { z } from 'zod';
import { FingoError } from '../core/errors.ts';
import type { StepParams } from './kind.ts';
import { kindOf } from './kinds.ts';
import type { TakeSpec } from './rebuild/rebuildSchema.ts';

/** One step as it is kept; its parameters are checked by its kind's schema. */
const stepSchema = z.object({
  id: z.string().min(1).max(80),
  type: z.string().max(40),
  version: z.int().min(1),
  enabled: z.boolean().default(true),
  name: z.string().max(120).optional(),
  params: z.unknown(),
});

const recipeSchema = z.object({
  format: z.literal('fingo-recipe'),
  version: z.literal(1),
  photo: z.object({ width: z.int().min(1), height: z.int().min(1) }),
  steps: z.array(stepSchema).max(500),
});

export interface Step extends Omit<z.infer<typeof stepSchema>, 'params'> {
  params: StepParams;
}

/** An ordered list of steps, made for a photo of a certain size: all that a result depends on beside the photo. */
export interface Recipe extends Omit<z.infer<typeof recipeSchema>, 'steps'> {
  steps: Step[];
}

/** Checks one step, parameters included. Throws `invalid-recipe` with the first thing that is wrong. */
export function parseStep(value: unknown): Step {
  const step = checked(stepSchema, value, 'step');
  const { version, schema, migrations = [] } = kindOf(step.type);
  if (step.version > version) {
    throw new FingoError('invalid-recipe', `The step "${step.type}" was made by a newer Fingo; open it with that one.`);
  }
  const params = migrations.slice(step.version - 1).reduce((old, migrate) => migrate(old), step.params);
  return { ...step, version, params: checked(schema, params, `"${step.type}" step`) };
}

/** Checks a whole recipe. Throws `invalid-recipe` with the first thing that is wrong. */
export function parseRecipe(value: unknown): Recipe {
  const recipe = checked(recipeSchema, value, 'recipe');
  return { ...recipe, steps: recipe.steps.map(parseStep) };
}

function checked<T>(schema: z.ZodType<T>, value: unknown, what: string): T {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  const where = issue.path.length ? ` at ${issue.path.join('.')}` : '';
  throw new FingoError('invalid-recipe', `This ${what} can't be used${where}: ${issue.message}; nothing was changed.`);
}

/** A step of this kind with these parameters, to be added to a project. Throws `invalid-recipe`. */
export const stepOf = (id: string, type: string, params: object, take = firstTake(type)): Step =>
  parseStep({ id, type, version: kindOf(type).version, params: { ...params, take } });

/** The take of a kind of which there is but one, or that is made first. */
export const firstTake = (type: string): TakeSpec => ({ strategy: kindOf(type).strategies[0]!, seed: 1 });
