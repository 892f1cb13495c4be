import { findOpenable, type Reflecting, type RoomRays } from '@dial-shade/core';
import { BrickWall, PenLine, Trash2 } from 'lucide-react';
import { useEffect } from 'react';
import { CheckField, ChoiceField, LengthField, NumberField } from '../app/fields';
import { useMeshes } from '../state/mesh-cache';
import { useFocusedPane } from '../state/panes-store';
import { useDocument } from '../state/project-store';
import { setView, useMoment, useView } from '../state/view-store';
import { measureRays, NEW_WALL, type Rays, useRays } from './rays-store';

function share(value: number, what: string): string | null {
  return value >= 0 && value <= 1 ? null : `${what} goes from 0 to 1.`;
}

/** Rays through the openings of a room, with reflections, counted by where they land. */
export function RaysFields({ roomKey, openings }: { roomKey: string; openings: readonly string[] }) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const optionId = useView((view) => view.optionId);
  const atMs = useMoment();
  const rays = useRays();
  const { isOn, spacingM, bounces, reflectance, mirror, strip, wall, found, refused } = rays;
  const opening = rays.opening !== null && openings.includes(rays.opening) ? rays.opening : null;
  const put = (change: Partial<Rays>) => {
    useRays.setState(change);
    return null;
  };

  useEffect(() => {
    const asked = {
      room: roomKey,
      opening,
      spacingM,
      bounces,
      surfaces: { reflectance, mirror },
      strip,
      wall,
    };
    void measureRays(isOn ? { optionId, atMs, asked } : null);
  }, [
    project,
    meshes,
    optionId,
    atMs,
    roomKey,
    opening,
    isOn,
    spacingM,
    bounces,
    reflectance,
    mirror,
    strip,
    wall,
  ]);
  useEffect(() => () => void measureRays(null), []);

  return (
    <div className="mt-2">
      <CheckField label="Rays, where they land" checked={isOn} change={(is) => put({ isOn: is })} />
      {isOn && (
        <>
          {openings.length > 1 && (
            <ChoiceField
              label="Through"
              value={opening ?? ''}
              choices={[
                { value: '', name: `all ${openings.length} openings` },
                ...openings.map((id, i) => ({ value: id, name: `opening ${i + 1}` })),
              ]}
              commit={(id) => put({ opening: id || null })}
            />
          )}
          <LengthField
            label="A ray every"
            value={spacingM}
            commit={(next) =>
              next >= 0.02 && next <= 5
                ? put({ spacingM: next })
                : 'The spacing of rays goes from 0.02 to 5 m.'
            }
          />
          <ChoiceField
            label="Reflections"
            value={String(bounces)}
            choices={['0', '1', '2', '3'].map((value) => ({ value, name: value }))}
            commit={(value) => put({ bounces: Number(value) })}
          />
          <NumberField
            label="Reflectance"
            digits={2}
            value={reflectance}
            commit={(next) => share(next, 'A reflectance') ?? put({ reflectance: next })}
          />
          <NumberField
            label="Mirror-like share"
            digits={2}
            value={mirror}
            commit={(next) => share(next, 'The mirror-like share') ?? put({ mirror: next })}
          />
          <StripFields />
          <WallFields />
          {refused && <p className="visually-quiet">{refused}</p>}
          {found && <Landings found={found} />}
          {!found && !refused && <p className="visually-quiet">The sun is down.</p>}
        </>
      )}
    </div>
  );
}

/** A strip drawn as a line in a section: a shelf or a reflector before it is modelled. */
function StripFields() {
  const { strip } = useRays();
  const isDrawing = useView((view) => view.tool.kind === 'strip');
  const isSection = useFocusedPane().camera?.kind === 'upright';
  const put = (change: object) => {
    useRays.setState(({ strip: was }) => ({ strip: was && { ...was, ...change } }));
    return null;
  };
  return (
    <>
      <div className="d-flex gap-1 mb-1">
        <button
          className="btn btn-quiet btn-sm"
          aria-pressed={isDrawing}
          disabled={!isSection}
          title={isSection ? 'Two clicks in the section' : 'Look at a section first'}
          onClick={() => setView({ tool: isDrawing ? { kind: 'select' } : { kind: 'strip' } })}
        >
          <PenLine size={13} /> Draw a strip
        </button>
        {strip && (
          <button
            className="btn-bare"
            aria-label="Remove the strip"
            title="Remove the strip"
            onClick={() => useRays.setState({ strip: null })}
          >
            <Trash2 size={14} />
          </button>
        )}
      </div>
      {strip && (
        <>
          <LengthField
            label="Strip, along the facade"
            value={strip.widthM}
            commit={(next) =>
              next > 0 && next <= 100 ? put({ widthM: next }) : 'The strip is up to 100 m wide.'
            }
          />
          <ReflectingFields of="Strip" value={strip} put={put} />
        </>
      )}
    </>
  );
}

/** A wall outside, chosen on the board, that throws sun into the room. */
function WallFields() {
  const { wall } = useRays();
  const selection = useView((view) => view.selection);
  const project = useDocument();
  const put = (change: object) => {
    useRays.setState(({ wall: was }) => ({ wall: was && { ...was, ...change } }));
    return null;
  };
  const body = selection?.face ? findOpenable(project, selection) : null;
  return (
    <>
      <div className="d-flex gap-1 mb-1">
        <button
          className="btn btn-quiet btn-sm"
          disabled={!body}
          title={body ? `Sun that this wall of “${body.name}” throws` : 'Choose a wall on the board first'}
          onClick={() => {
            const { optionId, id, face } = selection!;
            useRays.setState({
              wall: { ...NEW_WALL, owner: { optionId, id }, face: face!, name: body!.name },
            });
          }}
        >
          <BrickWall size={13} /> Off the chosen wall
        </button>
        {wall && (
          <button
            className="btn-bare"
            aria-label="Leave out the wall"
            title="Leave out the wall"
            onClick={() => useRays.setState({ wall: null })}
          >
            <Trash2 size={14} />
          </button>
        )}
      </div>
      {wall && (
        <>
          <p className="visually-quiet m-0">Sun off a wall of “{wall.name}” comes in too.</p>
          <ReflectingFields of="Wall" value={wall} put={put} />
        </>
      )}
    </>
  );
}

/** How a strip or a wall reflects. */
function ReflectingFields({
  of,
  value,
  put,
}: {
  of: string;
  value: Reflecting;
  put: (change: Partial<Reflecting>) => null;
}) {
  return (
    <>
      <NumberField
        label={`${of}, reflectance`}
        digits={2}
        value={value.reflectance}
        commit={(next) => share(next, 'A reflectance') ?? put({ reflectance: next })}
      />
      <NumberField
        label={`${of}, mirror-like share`}
        digits={2}
        value={value.mirror}
        commit={(next) => share(next, 'The mirror-like share') ?? put({ mirror: next })}
      />
    </>
  );
}

/** Shares of what enters, by where it lands and how often it was reflected before. */
function Landings({ found: { counts, leaves, enters, rays, misses } }: { found: RoomRays }) {
  if (enters <= 0) return <p className="visually-quiet">No sun enters here now.</p>;
  const percent = (part: number) => (part > 0 ? ((100 * part) / enters).toFixed(1) : '–');
  const rows = [
    ...counts.map(({ surface, lands }) => ({ name: surface, by: lands })),
    { name: 'leaves', by: leaves },
  ];
  return (
    <>
      <table className="figures compact" data-testid="landings">
        <thead>
          <tr>
            <th>Lands on, %</th>
            {leaves.map((_, bounce) => (
              <th key={bounce} title={bounce ? `After ${bounce} reflections` : 'Straight from the sun'}>
                {bounce || 'sun'}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows
            .filter(({ by }) => by.some((part) => part > 0))
            .map(({ name, by }) => (
              <tr key={name}>
                <td>{name}</td>
                {by.map((part, bounce) => (
                  <td key={bounce}>{percent(part)}</td>
                ))}
              </tr>
            ))}
        </tbody>
      </table>
      <p className="visually-quiet m-0">
        {rays} rays; {enters.toFixed(2)} m² of beam enter
        {misses > 0 && `, ${misses.toFixed(2)} m² thrown elsewhere do not`}.
      </p>
    </>
  );
}
