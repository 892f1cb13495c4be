import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { redo, undo } from '../state/project-store';
import { setMoment, setView, useView } from '../state/view-store';
import { commands, removeSelection } from './commands';
import { useDialogs } from './dialogs';

/** Whether keys belong to what has the focus: a text field, a list, a dialog. */
function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return (
    target.closest('input:not([type=checkbox]):not([type=range]), select, textarea, [role=dialog]') !== null
  );
}

const ARROWS: Record<string, [days: number, minutes: number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -10],
  ArrowDown: [0, 10],
};

/** Moves the crosshair by an arrow key: a day or ten minutes, with Shift a week or an hour. */
export function stepMoment(key: string, big: boolean): boolean {
  const arrow = ARROWS[key];
  if (!arrow) return false;
  const { date, minutes } = useView.getState();
  const [days, steps] = arrow;
  setMoment(date, minutes + days * 1440 * (big ? 7 : 1) + steps * (big ? 6 : 1));
  setView({ play: null });
  return true;
}

/** Steps back: first out of the tool, then out of the choice. */
function escape(): void {
  if (useView.getState().tool.kind !== 'select') setView({ tool: { kind: 'select' } });
  else setView({ selection: null, also: [], opening: null, activeProbe: null });
}

/** Keys that work anywhere on the page. */
export function useShortcuts(): void {
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const command = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      if (command && key === 'k') {
        event.preventDefault();
        useDialogs.setState({ search: true });
        return;
      }
      if (isTyping(event.target)) return;
      if (command && key === 'z') {
        event.preventDefault();
        if (event.shiftKey) redo();
        else undo();
      } else if (command && key === 'y') {
        event.preventDefault();
        redo();
      } else if (!command && !event.altKey) plainKey(event);
    };
    const plainKey = (event: KeyboardEvent) => {
      const onButton =
        event.target instanceof HTMLElement && event.target.closest('button, a, summary') !== null;
      // Arrows move a slider that has the focus, not the moment.
      if (event.key in ARROWS && event.target instanceof HTMLInputElement && event.target.type === 'range')
        return;
      if (event.key === ' ' && onButton) return;
      const pressed = event.key === ' ' ? (event.shiftKey ? 'Shift Space' : 'Space') : event.key;
      if (event.key === 'Delete' || event.key === 'Backspace') removeSelection();
      else if (event.key === 'Escape') escape();
      else if (stepMoment(event.key, event.shiftKey)) event.preventDefault();
      else {
        const found = commands(
          (stage) => void navigate({ pathname: stage, search: window.location.search }),
        ).find(({ keys }) => keys && keys.toLowerCase() === pressed.toLowerCase());
        if (!found) return;
        event.preventDefault();
        found.run();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [navigate]);
}
