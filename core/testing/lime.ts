import type { TreeNeighbour } from '../src';

/** A tree: a round crown 6 m wide from 3 m up to 10 m, a fifth open in leaf, six tenths bare. */
export const LIME: TreeNeighbour = {
  kind: 'tree',
  id: 'lime',
  name: 'Lime',
  at: [0, -6],
  heightM: 10,
  crownM: 6,
  clearM: 3,
  crown: 'round',
  leafOpenness: 0.2,
  bareOpenness: 0.6,
  leafFrom: '04-20',
  leafUntil: '10-31',
  demolished: false,
};
