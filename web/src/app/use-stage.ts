import { useLocation } from 'react-router';
import type { Stage } from '../state/view-store';

/** The stage that an address names. */
export function stageOf(pathname: string): Stage {
  return (pathname.split('/')[3] ?? 'sun') as Stage;
}

/** The stage that the address of the page names. */
export function useStage(): Stage {
  return stageOf(useLocation().pathname);
}
