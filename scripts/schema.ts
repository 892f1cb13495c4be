import { projectJsonSchema } from '@dial-shade/core';
import { writeFileSync } from 'node:fs';

writeFileSync('docs/project.schema.json', JSON.stringify(projectJsonSchema(), null, 1) + '\n');
console.log('docs/project.schema.json');
