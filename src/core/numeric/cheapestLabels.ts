/**
 * One label for each node of a closed chain, so that the sum of what labels cost and of what each step of a label from one
 * node to the next costs is least, with label `fixed` at node `start`. From node to node labels change by one at most.
 * Dynamic programming (H. Sakoe, S. Chiba, IEEE Transactions on Acoustics, Speech, and Signal Processing, 1978).
 *
 * @param costs what each of `labels` labels costs, node by node
 */
export function cheapestLabels(
  costs: Float32Array,
  labels: number,
  stepCost: number,
  start: number,
  fixed: number,
): Int32Array {
  const nodes = costs.length / labels;
  const cameFrom = new Int8Array(costs.length);
  let least = new Float32Array(labels).fill(Infinity);
  let next = new Float32Array(labels);
  least[fixed] = 0;
  for (let k = 1; k <= nodes; k++) {
    const at = ((start + k) % nodes) * labels;
    for (let label = 0; label < labels; label++) {
      let cost = least[label]!;
      let change = 0;
      if (label > 0 && least[label - 1]! + stepCost < cost) {
        cost = least[label - 1]! + stepCost;
        change = -1;
      }
      if (label + 1 < labels && least[label + 1]! + stepCost < cost) {
        cost = least[label + 1]! + stepCost;
        change = 1;
      }
      next[label] = cost + costs[at + label]!;
      cameFrom[at + label] = change;
    }
    [least, next] = [next, least];
  }
  const found = new Int32Array(nodes);
  for (let k = nodes, label = fixed; k >= 1; k--) {
    const node = (start + k) % nodes;
    found[node] = label;
    label += cameFrom[node * labels + label]!;
  }
  return found;
}
