import { editSite, type Ground, groundLevel } from '@dial-shade/core';
import { PencilRuler, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ChoiceField, FileField, LengthField, NumberField, Section } from '../app/fields';
import { IconButton } from '../app/objects';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView } from '../state/view-store';
import { layTerrain } from './terrain-file';

/** The ground: level, a sloping plane, or a terrain out of heights. */
export function GroundSection({ ground }: { ground: Ground }) {
  const [wrong, setWrong] = useState<string | null>(null);
  const set = (next: Ground) => edit('change the ground', editSite({ ground: next }), { quiet: true });
  const levelM = Math.round(groundLevel(ground, [0, 0]) * 1000) / 1000;
  return (
    <Section title="Ground">
      <ChoiceField
        label="Ground"
        value={ground.kind}
        choices={[
          { value: 'level', name: 'Level' },
          { value: 'plane', name: 'Sloping plane' },
          ...(ground.kind === 'terrain' ? [{ value: 'terrain' as const, name: 'Terrain' }] : []),
        ]}
        commit={(kind) => {
          if (kind === 'level') set({ kind, levelM });
          else if (kind === 'plane') set({ kind, levelM, slopeDeg: 2, fallsTowardsDeg: 180 });
        }}
      />
      {ground.kind !== 'terrain' && (
        <LengthField
          label="Level at origin"
          value={ground.levelM}
          commit={(level) => set({ ...ground, levelM: level })}
        />
      )}
      {ground.kind === 'plane' && (
        <>
          <NumberField
            label="Slope"
            unit="°"
            value={ground.slopeDeg}
            commit={(slopeDeg) => set({ ...ground, slopeDeg })}
          />
          <NumberField
            label="Falls towards"
            unit="°"
            value={ground.fallsTowardsDeg}
            commit={(fallsTowardsDeg) => set({ ...ground, fallsTowardsDeg })}
          />
        </>
      )}
      {ground.kind === 'terrain' && <TerrainFacts points={ground.points} />}
      <FileField
        label="Terrain from a file"
        title="A height grid (ASC, GeoTIFF), x, y and z in each line, contour lines (DXF), or surfaces (LandXML, any model)"
        accept=".asc,.grd,.txt,.csv,.xyz,.pts,.tif,.tiff,.xml,.landxml,.dxf,.obj,.stl,.glb,.ifc,.cityjson,.json,text/plain"
        wrong={wrong}
        read={(file) => void layTerrain(file).then(setWrong)}
      />
    </Section>
  );
}

function TerrainFacts({ points }: { points: readonly (readonly [number, number, number])[] }) {
  const heights = points.map((p) => p[2]);
  const low = heights.reduce((a, b) => Math.min(a, b));
  const high = heights.reduce((a, b) => Math.max(a, b));
  return (
    <dl className="facts">
      <dt>Heights</dt>
      <dd>{points.length.toLocaleString('en')}</dd>
      <dt>From lowest to highest</dt>
      <dd>
        {low.toFixed(1)} to {high.toFixed(1)} m
      </dd>
    </dl>
  );
}

/** The site boundary. */
export function BoundarySection() {
  const { site } = useDocument();
  return (
    <Section
      title="Site boundary"
      aside={
        <IconButton
          icon={PencilRuler}
          label="Draw the boundary"
          onClick={() => setView({ tool: { kind: 'draw', shape: 'polygon', purpose: 'boundary' } })}
        />
      }
    >
      {site.boundary ? (
        <p className="m-0">
          {site.boundary.length} corners{' '}
          <IconButton
            icon={Trash2}
            label="Remove the boundary"
            onClick={() => {
              if (currentProject().site.boundary) edit('remove the boundary', editSite({ boundary: null }));
            }}
          />
        </p>
      ) : (
        <p className="visually-quiet m-0">None drawn.</p>
      )}
    </Section>
  );
}
