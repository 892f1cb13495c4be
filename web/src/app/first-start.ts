import { api } from '../state/api';
import { setView } from '../state/view-store';

const LAST = 'dial-shade:last';

/** Remembers which project is open, for the next visit. */
export function rememberLast(projectId: string): void {
  localStorage.setItem(LAST, projectId);
}

/** Where to begin: the project open last; at the first start the sample, with the sun already moving. */
export async function openFirst(): Promise<string> {
  const last = localStorage.getItem(LAST);
  const projects = await api.projects();
  if (last && projects.some((project) => project.id === last)) return `/p/${last}/sun`;
  const sample = projects.find((project) => project.id === 'kelp-lane');
  if (!sample) return '/projects';
  if (!last && !window.matchMedia('(prefers-reduced-motion: reduce)').matches) setView({ play: 'day' });
  return '/p/kelp-lane/sun?option=a&at=2026-03-21T09:30';
}
