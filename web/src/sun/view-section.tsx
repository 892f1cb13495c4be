import { type CameraOf, type Scene, wrap360 } from '@dial-shade/core';
import { Footprints, LayoutGrid, PenLine } from 'lucide-react';
import { useMemo, useState } from 'react';
import { CheckField, ChoiceField, LengthField, NumberField, Section, ShareField } from '../app/fields';
import { MAX_FOV_DEG, MIN_FOV_DEG } from '../board/eye-controls';
import { EYE_HEIGHT_M, floorsOf, NORMAL_FOV_DEG, viewTrouble, WIDE_FOV_DEG } from '../board/pane-cameras';
import { useScene } from '../board/use-scene';
import { showOnlyChosen } from '../board/isolate';
import { showCamera, viewOf } from '../board/pane-registry';
import { arrangeSheet, changeDrawing, MAX_PLANS, useFocusedPane } from '../state/panes-store';
import { useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';

/** From where the pane with the focus looks, and how it is drawn. */
export function ViewSection() {
  const { camera } = useFocusedPane();
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const { scene } = useScene(optionId, false, null);
  const trouble = useMemo(
    () => viewTrouble(project, optionId, scene, camera),
    [project, optionId, scene, camera],
  );
  return (
    <Section title="View">
      {trouble && (
        <p role="status" className="mb-1" style={{ color: 'var(--alarm)' }}>
          {trouble}
        </p>
      )}
      {camera?.kind === 'eye' && <EyeFields camera={camera} />}
      {camera?.kind === 'level' && <LevelFields camera={camera} />}
      {camera?.kind === 'upright' && <UprightFields camera={camera} scene={scene} />}
      {camera?.kind === 'elevation' && <ElevationFields camera={camera} />}
      {camera?.kind === 'sun' && (
        <p className="visually-quiet">
          What is seen from the sun is lit; what is hidden from it lies in shade.
        </p>
      )}
      {(!camera || camera.kind === 'orbit') && (
        <StandButton name="Stand in the scene" heightM={EYE_HEIGHT_M} />
      )}
      <DrawingFields />
    </Section>
  );
}

function StandButton({ name, heightM }: { name: string; heightM: number }) {
  const isOn = useView((view) => view.tool.kind === 'stand');
  return (
    <button
      className="btn btn-quiet btn-sm mb-2"
      aria-pressed={isOn}
      title="Click the ground, a floor, a balcony or a sill, and look from there"
      onClick={() => setView({ tool: isOn ? { kind: 'select' } : { kind: 'stand', heightM } })}
    >
      <Footprints size={14} /> {name}
    </button>
  );
}

function within(value: number, least: number, most: number, what: string, unit: string): string | null {
  return value >= least && value <= most ? null : `${what} goes from ${least} to ${most} ${unit}.`;
}

function EyeFields({ camera }: { camera: CameraOf<'eye'> }) {
  const { north } = useDocument().site;
  const [heightM, setHeight] = useState(EYE_HEIGHT_M);
  const put = (change: Partial<typeof camera>) => showCamera({ ...camera, ...change });
  const setFov = (fovDeg: number) => {
    const wrong = within(fovDeg, MIN_FOV_DEG, MAX_FOV_DEG, 'The field of view', 'degrees');
    if (!wrong) put({ fovDeg });
    return wrong;
  };
  return (
    <>
      <LengthField
        label="Eye above what it stands on"
        value={heightM}
        commit={(next) => {
          const wrong = within(next, 0.05, 50, 'The height of the eye', 'm');
          if (wrong) return wrong;
          put({ at: [camera.at[0], camera.at[1], camera.at[2] + next - heightM] });
          setHeight(next);
          return null;
        }}
      />
      <NumberField label="Field of view" unit="°" digits={1} value={camera.fovDeg} commit={setFov} />
      <div className="d-flex gap-1 flex-wrap">
        <button className="btn btn-quiet btn-sm mb-2" onClick={() => setFov(NORMAL_FOV_DEG)}>
          Normal {NORMAL_FOV_DEG}°
        </button>
        <button className="btn btn-quiet btn-sm mb-2" onClick={() => setFov(WIDE_FOV_DEG)}>
          Wide {WIDE_FOV_DEG}°
        </button>
        <StandButton name="Stand elsewhere" heightM={heightM} />
      </div>
      <p className="visually-quiet">
        Looks {wrap360(camera.bearingDeg - north.trueNorthDeg).toFixed(0)}° from true north,{' '}
        {camera.pitchDeg.toFixed(0).replace('-', '−')}° up. Drag to look; with the pane chosen W A S D walk, Q
        E turn, R F rise and sink; Shift goes through walls.
      </p>
    </>
  );
}

function LevelFields({ camera }: { camera: CameraOf<'level'> }) {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const floors = floorsOf(project, optionId);
  const put = (change: Partial<typeof camera>) => showCamera({ ...camera, ...change });
  const level = (floorM: number) => floorM.toFixed(2);
  const isListed = floors.some((floor) => level(floor.floorM) === level(camera.floorM));
  const choices = floors.map(({ name, floorM }) => ({
    value: level(floorM),
    name: `${level(floorM)} m, ${name}`,
  }));
  return (
    <>
      <ChoiceField
        label="Floor"
        value={level(camera.floorM)}
        choices={
          isListed
            ? choices
            : [{ value: level(camera.floorM), name: `${level(camera.floorM)} m` }, ...choices]
        }
        commit={(value) =>
          put({ floorM: floors.find(({ floorM }) => level(floorM) === value)?.floorM ?? Number(value) })
        }
      />
      <LengthField
        label="Cut above the floor"
        value={camera.aboveM}
        commit={(aboveM) => {
          const wrong = within(aboveM, 0.01, 100, 'The cut', 'm');
          if (!wrong) put({ aboveM });
          return wrong;
        }}
      />
      <CheckField label="True north up" checked={camera.northUp} change={(is) => put({ northUp: is })} />
      <button
        className="btn btn-quiet btn-sm mb-2"
        disabled={floors.length < 2}
        title={
          floors.length < 2
            ? 'There is only one floor here'
            : 'A plan of every floor, cut as high above it as this one; leave it by the buttons at the top'
        }
        onClick={() => {
          const plans = floors
            .slice(0, MAX_PLANS)
            .map(({ name, floorM }) => ({ name, camera: { ...camera, floorM } }));
          arrangeSheet(plans);
          plans.forEach((plan, id) => viewOf(id)?.restoreCamera(plan.camera));
        }}
      >
        <LayoutGrid size={14} /> Every floor side by side
      </button>
    </>
  );
}

function UprightFields({ camera, scene }: { camera: CameraOf<'upright'>; scene: Scene }) {
  const tool = useView((view) => view.tool);
  const isChosen = useView((view) => view.selection !== null);
  const isAll = useView((view) => view.hidden.size === 0);
  const isDrawing = tool.kind === 'draw' && tool.purpose === 'section';
  const shift = (m: number) => {
    const { from, to } = camera;
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1;
    const [nx, ny] = [(to[1] - from[1]) / length, (from[0] - to[0]) / length];
    showCamera({
      ...camera,
      from: [from[0] + nx * m, from[1] + ny * m],
      to: [to[0] + nx * m, to[1] + ny * m],
    });
  };
  return (
    <>
      <div className="d-flex gap-1 flex-wrap mb-2">
        <button
          className="btn btn-quiet btn-sm"
          aria-pressed={isDrawing}
          title="Draw the line of the cut on the ground, in this pane or, better, in one that looks from above"
          onClick={() =>
            setView({
              tool: isDrawing ? { kind: 'select' } : { kind: 'draw', shape: 'path', purpose: 'section' },
            })
          }
        >
          <PenLine size={14} /> Draw the cut
        </button>
        <button
          className="btn btn-quiet btn-sm"
          onClick={() =>
            showCamera({
              ...camera,
              from: camera.to,
              to: camera.from,
              alongM: lengthOf(camera) - camera.alongM,
            })
          }
        >
          Look the other way
        </button>
      </div>
      <div className="d-flex gap-1 flex-wrap mb-2">
        <button className="btn btn-quiet btn-sm" onClick={() => shift(1)}>
          1 m nearer
        </button>
        <button className="btn btn-quiet btn-sm" onClick={() => shift(-1)}>
          1 m farther
        </button>
      </div>
      <div className="d-flex gap-1 flex-wrap mb-2">
        <button
          className="btn btn-quiet btn-sm"
          disabled={!isChosen}
          title={isChosen ? 'Hides all else; it goes on casting its shade' : 'Click a building first'}
          onClick={() => showOnlyChosen(scene)}
        >
          Only the chosen building
        </button>
        {!isAll && (
          <button className="btn btn-quiet btn-sm" onClick={() => setView({ hidden: new Set() })}>
            Everything
          </button>
        )}
      </div>
    </>
  );
}

const lengthOf = ({ from, to }: CameraOf<'upright'>) => Math.hypot(to[0] - from[0], to[1] - from[1]);

function ElevationFields({ camera }: { camera: CameraOf<'elevation'> }) {
  const { north } = useDocument().site;
  const selection = useView((view) => view.selection);
  const wall = selection?.wallBearingDeg ?? null;
  return (
    <>
      <NumberField
        label="Faces, from true north"
        unit="°"
        digits={1}
        value={wrap360(camera.bearingDeg - north.trueNorthDeg)}
        commit={(deg) => {
          const wrong = within(deg, 0, 360, 'The bearing', 'degrees');
          if (!wrong) showCamera({ ...camera, bearingDeg: wrap360(deg + north.trueNorthDeg) });
          return wrong;
        }}
      />
      <button
        className="btn btn-quiet btn-sm mb-2"
        disabled={wall === null}
        title={wall === null ? 'Click a wall first' : undefined}
        onClick={() => showCamera({ ...camera, bearingDeg: wall! })}
      >
        Square on the chosen facade
      </button>
    </>
  );
}

function DrawingFields() {
  const { drawing } = useFocusedPane();
  return (
    <>
      <ChoiceField
        label="Surfaces"
        value={drawing.tone}
        choices={[
          { value: 'paper', name: 'Paper, by owner' },
          { value: 'white', name: 'White' },
          { value: 'kinds', name: 'By kind of face' },
        ]}
        commit={(tone) => changeDrawing({ tone })}
      />
      <ShareField label="Lines" value={drawing.ink} change={(ink) => changeDrawing({ ink })} />
      <ShareField label="Shade" value={drawing.shade} change={(shade) => changeDrawing({ shade })} />
      <CheckField
        label="Sun path of the day, the solstices and the equinox"
        checked={drawing.sunPath}
        change={(is) => changeDrawing({ sunPath: is })}
      />
      <CheckField
        label="Ground grid, every 10 m"
        checked={drawing.grid}
        change={(is) => changeDrawing({ grid: is })}
      />
      <CheckField
        label="Hidden things as outline"
        checked={drawing.ghost}
        change={(is) => changeDrawing({ ghost: is })}
      />
    </>
  );
}
