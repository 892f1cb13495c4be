import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { currentProject } from '../state/project-store';
import { momentFrom, momentText, setView, useView } from '../state/view-store';

/** Looks at the open project as an address says; what it does not know is left as it is. */
export function takeAddress(params: URLSearchParams): void {
  const wanted = params.get('option');
  const moment = momentFrom(params.get('at'));
  const study = params.get('study');
  const project = currentProject();
  if (wanted && project.options.some((option) => option.id === wanted)) setView({ optionId: wanted });
  if (moment) setView(moment);
  if (study && project.studies.some((s) => s.id === study)) setView({ activeStudy: study });
}

/** Keeps option and moment in the address as they change. */
export function useAddress(): void {
  const { pathname } = useLocation();
  const optionId = useView((view) => view.optionId);
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const playing = useView((view) => view.play !== null);

  // Written past the router: as a navigation it would call back one that is on its way to another stage.
  useEffect(() => {
    if (playing) return;
    const timer = setTimeout(() => {
      const { pathname: here, search } = window.location;
      const next = new URLSearchParams(search);
      next.set('option', optionId);
      next.set('at', momentText(date, minutes));
      window.history.replaceState(window.history.state, '', `${here}?${next}`);
    }, 300);
    return () => clearTimeout(timer);
  }, [optionId, date, minutes, playing, pathname]);
}
