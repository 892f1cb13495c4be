import { notify } from '../state/notice-store';
import { startRun } from '../state/result-state';
import { stopRun } from '../state/run-store';
import { useCompare } from './compare-store';
import type { Standing } from './use-compared';

/** Those that have no result, or one of before a change. */
export function outOfDate(standings: readonly Standing[]): Standing[] {
  return standings.filter(
    ({ state, isNotApplicable }) =>
      !isNotApplicable && !state.active && (!state.result || state.changes.length > 0),
  );
}

let isStopped = false;

/** Runs what is missing or out of date, one after another; the server keeps them. */
export async function bringUp(standings: readonly Standing[]): Promise<void> {
  const late = outOfDate(standings);
  isStopped = false;
  useCompare.setState({ asked: late.length });
  try {
    for (const { study, variant } of late) {
      if (isStopped) break;
      await startRun(study.id, variant.id);
    }
  } catch (error) {
    notify((error as Error).message, true);
  }
}

/** Stops what is at work, and asks for no more. */
export function stopBringing(standings: readonly Standing[]): void {
  isStopped = true;
  useCompare.setState({ asked: null });
  for (const { state } of standings) if (state.active) void stopRun(state.active.id);
}
