/** The pictures that ship with Fingo, with an idea what to try on each. */
export const DEMO_PICTURES: readonly { file: string; title: string; idea: string }[] = [
  { file: 'quay.jpg', title: 'The quay', idea: 'Move the jars, or clear them with their shadow' },
  { file: 'kilnyard.jpg', title: 'The kiln yard', idea: 'Clear the handcart from bricks and setts' },
  { file: 'glaze-table.jpg', title: 'The glaze table', idea: 'Make room between the bowls' },
  { file: 'dunes-heron.jpg', title: 'The heron', idea: 'Duplicate the heron in the dunes' },
  { file: 'facade.jpg', title: 'The house front', idea: 'Clear a window or a lamp' },
  { file: 'lagoon-sweep_wide.jpg', title: 'The lagoon', idea: 'Clear what stands on the shore' },
  { file: 'square-360.jpg', title: 'The square', idea: 'Look down and clear the tripod with its shadow' },
];
