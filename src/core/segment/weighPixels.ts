import type { Kernels } from '../kernels/kernels.ts';
import type { ColourMixture } from './colourMixture.ts';
import { mixtureWork, type MixtureWork } from './mixtureBands.ts';

function workOn(
  { components, means, whitening, offsets }: ColourMixture,
  features: Float32Array,
  picks: ArrayLike<number>,
  { reset, scratch }: Kernels,
): MixtureWork {
  reset();
  const work = mixtureWork(features, picks, components, scratch);
  work.means.set(means);
  work.whitening.set(whitening);
  work.offsets.set(offsets);
  return work;
}

type Weigh = (
  mixture: ColourMixture,
  features: Float32Array,
  picks: ArrayLike<number>,
  kernels: Kernels,
) => Float64Array;

const weighed =
  (by: 'weighPicks' | 'weighPicksInShade'): Weigh =>
  (mixture, features, picks, kernels) => {
    const work = workOn(mixture, features, picks, kernels);
    kernels[by](work);
    return work.values.slice();
  };

/** For each picked pixel the logarithm of a mixture's density (see `logDensity`). */
export const logDensities = weighed('weighPicks');

/** For each picked pixel the logarithm of how likely it is one of the ground in shadow (see `shadedLogDensity`). */
export const shadedLogDensities = weighed('weighPicksInShade');

/** For each picked pixel the component it most likely is of, and the logarithm of that one's share of the density. */
export function likeliestComponents(
  mixture: ColourMixture,
  features: Float32Array,
  picks: ArrayLike<number>,
  kernels: Kernels,
): { labels: Int32Array; densities: Float64Array } {
  const work = workOn(mixture, features, picks, kernels);
  kernels.labelPicks(work);
  return { labels: work.labels.slice(), densities: work.values.map((cost) => -cost) };
}
