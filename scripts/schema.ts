import { fileMeshSchema, projectSchema } from '@dial-shade/core';
import { writeFileSync } from 'node:fs';
import { z } from 'zod';

/** Writes the JSON Schema of the project file from the same schema that guards browser, API and command line. */
const file = projectSchema.extend({ meshes: z.record(z.string(), fileMeshSchema).optional() });
const schema = z.toJSONSchema(file, { io: 'input', unrepresentable: 'any' });
writeFileSync(
  'docs/project.schema.json',
  JSON.stringify({ title: 'Dial Shade project file, version 1', ...schema }, null, 1) + '\n',
);
console.log('docs/project.schema.json');
