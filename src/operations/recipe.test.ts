import { parseRecipe, parseStep } from './recipe.ts';
import { EMPTY_MARK } from './marks/markSchema.ts';

const step = {
  id: 'a',
  type: 'clear',
  version: 1,
  params: { mark: EMPTY_MARK, take: { strategy: 'even', seed: 1 } },
};
const recipe = { format: 'fingo-recipe', version: 1, photo: { width: 10, height: 10 }, steps: [step] };

test('what is left out gets its default, and a parsed recipe parses to itself', () => {
  const parsed = parseRecipe(recipe);
  expect(parsed.steps[0]).toMatchObject({ enabled: true, params: { closeness: 50, light: 100 } });
  expect(parseRecipe(JSON.parse(JSON.stringify(parsed)))).toEqual(parsed);
});

test.each([
  ['no recipe at all', 'hello', /recipe can't be used/],
  ['another version', { ...recipe, version: 2 }, /at version/],
  ['an unknown kind of step', { ...recipe, steps: [{ ...step, type: 'paint' }] }, /no step "paint"/],
  ['a step of a newer version', { ...recipe, steps: [{ ...step, version: 9 }] }, /made by a newer Fingo/],
  [
    'a value out of range',
    { ...recipe, steps: [{ ...step, params: { ...step.params, closeness: 101 } }] },
    /"clear" step can't be used at closeness/,
  ],
  [
    'points that are not numbers',
    {
      ...recipe,
      steps: [
        {
          ...step,
          params: { ...step.params, mark: { shapes: [{ kind: 'lasso', combine: 'also', points: [1, 'x'] }] } },
        },
      ],
    },
    /mark\.shapes\.0\.points\.1/,
  ],
])('%s is refused with where it is wrong', (_, value, message) => {
  expect(() => parseRecipe(value)).toThrow(message);
});

test('a move needs its placement', () => {
  expect(() => parseStep({ ...step, type: 'move' })).toThrow(/at placement/);
});
