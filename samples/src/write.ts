import { writeFileSync } from 'node:fs';
import { SAMPLES } from './index';

for (const [id, make] of Object.entries(SAMPLES)) {
  writeFileSync(`samples/projects/${id}.json`, JSON.stringify(make(), null, 1) + '\n');
  console.log(`samples/projects/${id}.json`);
}
