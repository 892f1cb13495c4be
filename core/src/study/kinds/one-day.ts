import type { Study, WindowOfTime } from '../../project';
import { windowsOf } from './kind';

/** The day that a study of one day is of: the first of its window; and, where it has others, a note that they do not count. */
export function dayOf(study: Study): { window: WindowOfTime; notes: string[] } {
  const { window } = study;
  const isOneDay = window.from === window.to && windowsOf(study).length === 1;
  return {
    window: { ...window, to: window.from },
    notes: isOneDay ? [] : [`Only ${window.from}, the first day of the window, counts.`],
  };
}
