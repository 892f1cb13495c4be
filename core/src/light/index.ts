export { type CosineFan, cosineFan, frameOf } from './cosine-fan';
export { type CellsMet, RaysBack } from './thrown-back';
export { LightCells } from './light-cells';
