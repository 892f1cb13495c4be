import { groundLevel, remove, type Study } from '@dial-shade/core';
import { Crosshair, Trash2 } from 'lucide-react';
import { Section } from '../app/fields';
import { focusedView } from '../board/pane-registry';
import { edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { OwnerBars } from './owner-bars';
import { SunDial } from './sun-dial';
import { useActiveProbe } from './use-probe-year';

/** Probes planted on the ground, and of the active one who takes its sun. */
export function ProbeSection({ study }: { study: Study }) {
  const { probes, site } = useDocument();
  const activeProbe = useView((view) => view.activeProbe);
  const light = useActiveProbe();
  const probe = probes.find((p) => p.id === activeProbe);
  return (
    <Section title="Probes">
      {probes.length === 0 && (
        <p className="visually-quiet m-0">
          Click on a result to plant a probe: its year appears in the almanac.
        </p>
      )}
      <ul className="objects">
        {probes.map((p) => (
          <li key={p.id} className={p.id === activeProbe ? 'chosen' : ''}>
            <button
              className="name"
              onClick={() => setView({ activeProbe: p.id === activeProbe ? null : p.id })}
            >
              Probe {p.number}
            </button>
            <span className="figure">
              {p.at[0].toFixed(1)}, {p.at[1].toFixed(1)}
            </span>
            <button
              className="btn-bare"
              aria-label={`Look at probe ${p.number}`}
              onClick={() => flyTo([p.at[0], p.at[1], groundLevel(site.ground, [p.at[0], p.at[1]])])}
            >
              <Crosshair size={14} />
            </button>
            <button
              className="btn-bare"
              aria-label={`Remove probe ${p.number}`}
              onClick={() => edit(`remove probe ${p.number}`, remove('probes', p.id))}
            >
              <Trash2 size={14} />
            </button>
          </li>
        ))}
      </ul>
      {probe && !light && <p className="visually-quiet">Tracing its year …</p>}
      {probe && light && (
        <div data-testid="probe-light">
          <SunDial light={light} point={probe} study={study} name={`probe-${probe.number}`} />
          <p className="mb-1">
            <strong>{Math.round(light.year.sunHours).toLocaleString('en')} h</strong> of sun in {site.year}.
            Taken, by what stands first along the ray:
          </p>
          <OwnerBars obstructions={light.obstructions} />
        </div>
      )}
    </Section>
  );
}

/** Brings a place to the middle of the pane, seen from where the eye stood, but near. */
export function flyTo(at: [number, number, number]): void {
  const view = focusedView();
  if (!view) return;
  const { camera } = view.look;
  if (camera.kind !== 'orbit') {
    view.flyTo(at, 15);
    return;
  }
  const { eye, lookAt, projection } = camera;
  const direction = eye.map((v, i) => v - lookAt[i]!) as [number, number, number];
  const length = Math.hypot(...direction) || 1;
  const near = projection === 'perspective' ? 45 : length;
  view.restoreCamera({
    kind: 'orbit',
    projection,
    lookAt: at,
    eye: at.map((v, i) => v + (direction[i]! / length) * near) as [number, number, number],
    heightM: 36,
  });
}
