import type { Project, Study } from '@dial-shade/core';
import { useDocument } from './project-store';
import { useView } from './view-store';

/** The study that is worked on: the one chosen last, or the first where that is gone. */
export function activeStudyOf(project: Project, chosen: string | null): Study | undefined {
  return project.studies.find(({ id }) => id === chosen) ?? project.studies[0];
}

export function useActiveStudy(): Study | undefined {
  return activeStudyOf(
    useDocument(),
    useView((view) => view.activeStudy),
  );
}
