import type { Becomes } from '@dial-shade/core';
import { cutText } from '@dial-shade/core';
import { proxy } from 'comlink';
import { notify } from '../state/notice-store';
import { currentProject, edit } from '../state/project-store';
import { openReader } from '../workers/compute';
import { BLANK } from './use-import';

/**
 * Lays the terrain that a file holds – heights, contour lines, surfaces – where the survey of the project or a map system has
 * it, and leaves everything else of the file. Gives a sentence where it cannot.
 */
export async function layTerrain(file: File): Promise<string | null> {
  const reader = openReader();
  try {
    const project = currentProject();
    const preview = await reader.remote.readModel(
      new Uint8Array(await file.arrayBuffer()),
      file.name,
      proxy(() => undefined),
      { near: project.site.place, survey: project.site.survey },
    );
    if ('refused' in preview) return `“${file.name}”: ${preview.refused}`;
    const able = preview.rows.filter(({ may }) => may.includes('terrain'));
    const likely = able.filter((row) => row.likely === 'terrain');
    const ground = new Set((likely.length > 0 ? likely : able).map(({ key }) => key));
    if (ground.size === 0) return `“${file.name}” holds no heights and no surfaces.`;
    const becomes = Object.fromEntries(
      preview.rows.map(({ key }): [string, Becomes] => [key, ground.has(key) ? 'terrain' : 'leave']),
    );
    const up = preview.up ?? 'z';
    const answer = await reader.remote.importModel(currentProject(), {
      ...BLANK,
      ...{ up, becomes, unit: preview.unit ?? preview.likely[up] },
      name: cutText(file.name.replace(/\.[a-z0-9]+$/i, ''), 80) || 'Heights',
    });
    if ('refused' in answer) return `“${file.name}”: ${answer.refused}`;
    const refused = edit('lay the terrain', () => answer.project, { quiet: true });
    if (!refused) notify([...answer.notes, ...preview.notes].slice(0, 4).join(' '));
    return refused;
  } finally {
    reader.end();
  }
}
