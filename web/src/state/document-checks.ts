// What is asked only once something is changed or merged: the schema of the document and all that goes with it, a tenth of
// the page's script. See `checks`.
export { editProblems, mergeProjects, parseProject } from '@dial-shade/core';
