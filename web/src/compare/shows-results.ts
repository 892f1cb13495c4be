import { useStage } from '../app/use-stage';
import { useCompare } from './compare-store';

/** Whether results of the active study lie on the board: on the Studies stage, and where options are compared by them. */
export function useShowsResults(): boolean {
  const stage = useStage();
  const isCompared = useCompare(({ show, onBoard }) => show === 'board' && onBoard);
  return stage === 'studies' || (stage === 'compare' && isCompared);
}
