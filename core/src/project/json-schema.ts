import { z } from 'zod';
import { fileMeshSchema, projectSchema } from './schema';
import { CURRENT_VERSION } from './versions';

/** The JSON Schema of the project file, from the same schema that guards browser, server and command line. */
export function projectJsonSchema(): object {
  const file = projectSchema.extend({
    meshes: z.record(z.string(), fileMeshSchema).optional(),
    pictures: z.record(z.string(), z.string()).optional(),
  });
  return {
    title: `Dial Shade project file, version ${CURRENT_VERSION}`,
    ...z.toJSONSchema(file, { io: 'input', unrepresentable: 'any' }),
  };
}
