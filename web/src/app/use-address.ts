import { useEffect, useRef } from 'react';
import { useNavigation, useSearchParams } from 'react-router';
import { currentProject } from '../state/project-store';
import { momentFrom, momentText, setView, useView } from '../state/view-store';

/** Keeps option and moment in the address: read once when a project opens, then written as they change. */
export function useAddress(): void {
  const [params, setParams] = useSearchParams();
  const optionId = useView((view) => view.optionId);
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const playing = useView((view) => view.play !== null);
  const read = useRef(false);
  // Written while the page is on its way to another stage, the address would call it back.
  const isOnTheWay = useNavigation().state !== 'idle';

  useEffect(() => {
    if (read.current) return;
    read.current = true;
    const wanted = params.get('option');
    const moment = momentFrom(params.get('at'));
    const study = params.get('study');
    const project = currentProject();
    if (wanted && project.options.some((option) => option.id === wanted)) setView({ optionId: wanted });
    if (moment) setView(moment);
    if (study && project.studies.some((s) => s.id === study)) setView({ activeStudy: study });
  }, [params]);

  useEffect(() => {
    if (!read.current || playing || isOnTheWay) return;
    const timer = setTimeout(() => {
      setParams(
        (old) => {
          const next = new URLSearchParams(old);
          next.set('option', optionId);
          next.set('at', momentText(date, minutes));
          return next;
        },
        { replace: true },
      );
    }, 300);
    return () => clearTimeout(timer);
  }, [optionId, date, minutes, playing, isOnTheWay, setParams]);
}
