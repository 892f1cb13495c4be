export { cosineFan, frameOf } from './cosine-fan';
export { type CellsMet, RaysBack } from './thrown-back';
export { type Surroundings, surroundingsOf } from './surroundings';
