// What results are read by: the kinds of study with all that they weigh. See `api.result`.
export { resultFromBytes } from '@dial-shade/core';
