import {
  changeScheme,
  newId,
  netWorth,
  type Option,
  type OutlineManner,
  plateOn,
  type Polygon,
  worthOutline,
  type WorthPlane,
} from '@dial-shade/core';
import { Layers2 } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { CheckField, ChoiceField, LengthField, NumberField, Section } from '../app/fields';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { edit, useDocument } from '../state/project-store';
import { lightParts } from '../studies/use-probe-year';
import { useGlass } from './glass-store';
import { changedPlane, PLANES, usePlanes } from './offered-planes';
import { WorthPicture } from './worth-map';
import { findWorth, useWorth, type WorthWish } from './worth-store';

/** How thick the plate is that is made of a map, metres. */
const PLATE_M = 0.04;

/** Where shade is worth having on a plane, on the board as colours, and a device made of it. */
export function WorthSection({ option, schemeId }: { option: Option; schemeId: string }) {
  const project = useDocument();
  const { hourSets } = project;
  const meshes = useMeshes((state) => state.meshes);
  const chosen = useGlass((state) => state.chosen);
  const { isShown, found, wish } = useWorth();
  const [kind, setKind] = useState('level');
  const [plane, setPlane] = useState(PLANES.level!.plane);
  const [along, setAlong] = useState<WorthWish['along']>('opening');
  const [manner, setManner] = useState<OutlineManner>('straight');
  const [against, setAgainst] = useState(hourSets.find(({ use }) => use === 'unwanted')?.id);
  const [letIn, setLetIn] = useState(hourSets.find(({ use }) => use === 'wanted')?.id ?? '');
  const unwanted = hourSets.find(({ id }) => id === against) ?? hourSets[0];
  const wanted = hourSets.find(({ id }) => id === letIn);
  const offered = usePlanes(option, schemeId, chosen);
  const isAsked = isShown && chosen !== null && unwanted !== undefined;
  useEffect(() => {
    if (!isAsked) return;
    void findWorth({
      optionId: option.id,
      opening: chosen,
      along,
      plane,
      sets: { unwanted: unwanted.id, wanted: wanted?.id ?? null },
      without: offered[kind]?.without ?? null,
    });
    // oxlint-disable-next-line react/exhaustive-deps
  }, [isAsked, option.id, chosen, along, plane, unwanted, wanted, meshes, ...lightParts(project)]);
  const map = found && 'map' in found && wish?.optionId === option.id ? found.map : null;
  if (!unwanted) return null;
  return (
    <Section title="Where shade is worth having" name="worth">
      <CheckField
        label="Show it on the board"
        checked={isShown}
        change={(on) => useWorth.setState({ isShown: on })}
      />
      {isShown && (
        <>
          <ChoiceField
            label="Plane"
            value={kind in offered ? kind : 'level'}
            choices={Object.entries(offered).map(([value, { name }]) => ({ value, name }))}
            commit={(next) => {
              setKind(next);
              setPlane(offered[next]!.plane);
            }}
          />
          <ChoiceField
            label="To keep out"
            value={unwanted.id}
            choices={hourSets.map(({ id, name }) => ({ value: id, name: `hours of “${name}”` }))}
            commit={setAgainst}
          />
          <ChoiceField
            label="To let in"
            value={wanted?.id ?? ''}
            choices={[
              ...hourSets.map(({ id, name }) => ({ value: id, name: `hours of “${name}”` })),
              { value: '', name: 'no sun' },
            ]}
            commit={setLetIn}
          />
          <ChoiceField
            label="Over"
            value={along}
            choices={[
              { value: 'opening', name: 'the window above' },
              { value: 'storey', name: 'all windows of its storey of the wall' },
            ]}
            commit={setAlong}
          />
          <PlaneFields plane={plane} change={setPlane} />
          <LambdaField />
          {found && 'refused' in found && <p className="wrong">{found.refused}</p>}
          {!found && <p className="visually-quiet">Looking for it …</p>}
          {map && (
            <MapFound
              map={map}
              manner={manner}
              setManner={setManner}
              plane={plane}
              along={along}
              {...{ option, schemeId }}
              hasWanted={wanted !== undefined}
            />
          )}
        </>
      )}
    </Section>
  );
}

type WorthMapFound = Parameters<typeof netWorth>[0];

/** The map as a picture, what it says, and the device that can be made of it. */
function MapFound({
  map,
  manner,
  setManner,
  plane,
  along,
  option,
  schemeId,
  hasWanted,
}: {
  map: WorthMapFound;
  manner: OutlineManner;
  setManner: (manner: OutlineManner) => void;
  plane: WorthPlane;
  along: WorthWish['along'];
  option: Option;
  schemeId: string;
  hasWanted: boolean;
}) {
  const lambda = useWorth((state) => state.lambda);
  const outlines = useMemo(() => worthOutline(map, lambda, manner), [map, lambda, manner]);
  const make = () => {
    const { chosen } = useGlass.getState();
    if (outlines.length === 0)
      notify('Nowhere on this plane is shade worth more than nothing; let wanted sun count for less.', true);
    else if (hangPlate(option.id, schemeId, chosen!, along, { ...plateOn(plane, PLATE_M), outlines }))
      useWorth.setState({ isShown: false });
  };
  return (
    <>
      <WorthPicture map={map} lambda={lambda} />
      <WorthSaid map={map} lambda={lambda} hasWanted={hasWanted} />
      <ChoiceField
        label="Outline"
        value={manner}
        choices={[
          { value: 'straight', name: 'with straight edges' },
          { value: 'smooth', name: 'along the contour' },
          { value: 'cells', name: 'of whole cells' },
        ]}
        commit={setManner}
      />
      <button className="btn btn-quiet mb-2" onClick={make}>
        <Layers2 size={13} /> Make it a device
      </button>
    </>
  );
}

/** Where the plane lies and how far it reaches. */
function PlaneFields({ plane, change }: { plane: WorthPlane; change: (plane: WorthPlane) => void }) {
  const set = (fields: Partial<WorthPlane>) => {
    const next = changedPlane(plane, fields);
    if (typeof next === 'string') return next;
    change(next);
    return null;
  };
  return (
    <div className="pair even">
      <LengthField label="Over the head" value={plane.aboveM} commit={(aboveM) => set({ aboveM })} />
      <LengthField label="Off the face" value={plane.offM} commit={(offM) => set({ offM })} />
      <NumberField label="Tilt" unit="°" value={plane.tiltDeg} commit={(tiltDeg) => set({ tiltDeg })} />
      <LengthField label="Beyond the ends" value={plane.sideM} commit={(sideM) => set({ sideM })} />
      <LengthField label="Outwards" value={plane.outM} commit={(outM) => set({ outM })} />
      <LengthField label="Cells" value={plane.cellM} commit={(cellM) => set({ cellM })} />
    </div>
  );
}

/** How much wanted sun counts against unwanted. */
function LambdaField() {
  const lambda = useWorth((state) => state.lambda);
  return (
    <label className="field">
      <span>
        Wanted sun counts <output>{lambda.toFixed(2)} ×</output>
      </span>
      <input
        type="range"
        className="form-range"
        min={0}
        max={2}
        step={0.05}
        value={lambda}
        aria-label="How much wanted sun counts against unwanted"
        onChange={(event) => useWorth.setState({ lambda: event.target.valueAsNumber })}
      />
    </label>
  );
}

/** Hangs a plate of these outlines at a window, or at all of its wall and storey. Gives whether it could be. */
function hangPlate(
  optionId: string,
  schemeId: string,
  chosen: string,
  along: WorthWish['along'],
  { outlines, ...plate }: ReturnType<typeof plateOn> & { outlines: readonly Polygon[] },
): boolean {
  const id = newId('device');
  const refused = edit(
    'make a device of the map',
    changeScheme(optionId, schemeId, (one) => ({
      ...one,
      devices: [
        ...one.devices,
        {
          id,
          name: `Plate ${one.devices.length + 1}`,
          scope: { owners: null, sectors: null, storeys: null },
          openings: along === 'opening' ? [openingOf(chosen)] : wallOf(chosen),
          ...(along !== 'opening' && { along }),
          make: {
            ...plate,
            outlines: outlines.map(({ outer, holes }) => ({
              outer: rounded(outer),
              holes: holes.map(rounded),
            })),
          },
        },
      ],
    })),
  );
  if (refused) return false;
  useGlass.setState({ device: id });
  return true;
}

/** An opening by its key. */
function openingOf(key: string): { owner: string; opening: string } {
  const [owner, ...rest] = key.split('/');
  return { owner: owner!, opening: rest.join('/') };
}

/** All glazed openings of the wall and storey of one. */
function wallOf(key: string): { owner: string; opening: string }[] {
  const { now } = useGlass.getState();
  const one = now.find((row) => row.key === key);
  return now
    .filter(({ face, key: other }) => face === one?.face && other.split('/')[0] === key.split('/')[0])
    .map(({ key: other }) => openingOf(other));
}

const rounded = (ring: readonly (readonly [number, number])[]) =>
  ring.map(([x, y]): [number, number] => [Number(x.toFixed(4)), Number(y.toFixed(4))]);

function WorthSaid({ map, lambda, hasWanted }: { map: WorthMapFound; lambda: number; hasWanted: boolean }) {
  const net = netWorth(map, lambda);
  let [cells, unwanted, wanted] = [0, 0, 0];
  net.forEach((value, i) => {
    if (value <= 0) return;
    cells++;
    unwanted += map.unwanted[i]!;
    wanted += map.wanted[i]!;
  });
  const read = (value: number) => (value < 10 ? value.toFixed(1) : Math.round(value).toLocaleString('en'));
  return (
    <p className="mb-1" data-testid="worth-said">
      <strong>{(cells * map.cellM ** 2).toFixed(2)} m²</strong> are worth shading: together they keep out{' '}
      {read(unwanted)} of {read(map.unwantedAll)} {map.unit} of unwanted sun
      {hasWanted && `, and take ${read(wanted)} of ${read(map.wantedAll)} ${map.unit} of wanted sun`}.
    </p>
  );
}
