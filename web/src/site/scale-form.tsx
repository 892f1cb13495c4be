import { change, formatLength, parseLength, scaledUnderlay } from '@dial-shade/core';
import { type FormEvent, useId, useState } from 'react';
import { notify } from '../state/notice-store';
import { currentProject, edit } from '../state/project-store';
import { setView } from '../state/view-store';
import { forgetPoints, underlayInHand, useUnderlays } from './underlay-store';

/** The distance between the two points that were clicked; typed, it tells the scale of the picture. */
export function ScaleForm({ underlay }: { underlay: string }) {
  const id = useId();
  const [typed, setTyped] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const take = (event: FormEvent) => {
    event.preventDefault();
    const refused = scaleBy(underlay, typed);
    setWrong(refused);
    if (refused !== null) return;
    forgetPoints();
    setView({ tool: { kind: 'select' } });
  };
  return (
    <form className="scale-form" onSubmit={take}>
      <label htmlFor={id}>Distance between the two points</label>
      <input
        id={id}
        className={`form-control${wrong ? ' is-invalid' : ''}`}
        // The length is all that is missing.
        // oxlint-disable-next-line jsx-a11y/no-autofocus
        autoFocus
        value={typed}
        placeholder={currentProject().units === 'metric' ? '12.50' : `41' 0"`}
        aria-invalid={wrong !== null}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && forgetPoints()}
      />
      <button type="submit">Scale</button>
      {wrong && <span role="alert">{wrong}</span>}
    </form>
  );
}

/** Scales a picture so that the points clicked are as far apart as was typed; a sentence where that cannot be. */
function scaleBy(id: string, typed: string): string | null {
  const project = currentProject();
  const [from, to] = useUnderlays.getState().points;
  const underlay = underlayInHand(project, id);
  if (!underlay || !from || !to) return 'The picture is locked, hidden or gone; it cannot be scaled.';
  try {
    const scaled = scaledUnderlay(underlay, from, to, parseLength(typed, project.units));
    const { at, metresPerPixel, widthPx, heightPx } = scaled;
    const refused = edit(
      `scale ${underlay.name}`,
      change('underlays', id, { at, metresPerPixel, scaled: true }),
      { quiet: true },
    );
    if (!refused) {
      const size = [widthPx, heightPx].map((px) => formatLength(px * metresPerPixel, project.units));
      notify(`“${underlay.name}” is to scale: ${size.join(' × ')}.`);
    }
    return refused;
  } catch (error) {
    return (error as Error).message;
  }
}
