export { cosineFan, frameOf } from './cosine-fan';
export { type CellsMet, RaysBack } from './rays-back';
export { type Surroundings, surroundingsOf } from './surroundings';
