import { type MomentSet, momentsOf, type SetMoment } from '@dial-shade/core';
import { useMemo } from 'react';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';

/** The set that is chosen, and its moments or why it has none. */
export function useMomentSet(): { set: MomentSet | null; moments: SetMoment[]; wrong: string | null } {
  const { momentSets, site } = useDocument();
  const chosen = useView((view) => view.momentSet);
  const set = momentSets.find(({ id }) => id === chosen) ?? null;
  return useMemo(() => {
    if (!set) return { set, moments: [], wrong: null };
    try {
      return { set, moments: momentsOf(set, site), wrong: null };
    } catch (error) {
      return { set, moments: [], wrong: (error as Error).message };
    }
  }, [set, site]);
}
