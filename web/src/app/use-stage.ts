import { useLocation } from 'react-router';
import type { Stage } from '../state/view-store';

/** The stage that the address names. */
export function useStage(): Stage {
  const { pathname } = useLocation();
  return (pathname.split('/')[3] ?? 'sun') as Stage;
}
