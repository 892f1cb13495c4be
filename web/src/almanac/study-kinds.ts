// The kinds of study, for the almanac of a study. See `useWindowInHand`.
export { STUDY_KINDS } from '@dial-shade/core';
