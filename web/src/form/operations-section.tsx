import {
  cutText,
  addMass,
  copyOwners,
  edgeOf,
  findBody,
  findOwner,
  footprintFromEdge,
  newId,
  massLevels,
  type MeshStore,
  adjoiningModel,
  moveOwners,
  normalFootprint,
  offsetRing,
  type OwnerRef,
  defaultMass,
  type Project,
  removeOwners,
  reshapeBody,
  shiftBy,
  splitStoreys,
  TODAY,
  turnAbout,
  uniteMasses,
  firstCorner,
  edgeIndex,
} from '@dial-shade/core';
import { Combine, Copy, FlipHorizontal2, Grid3x3, RotateCw, SplitSquareVertical } from 'lucide-react';
import { useState } from 'react';
import { LengthField, NumberField, Section } from '../app/fields';
import { ToolButton } from '../app/objects';
import { setArrayCopies } from '../board/drawn-objects';
import { pushFace } from '../board/tools/push-tool';
import { notify } from '../state/notice-store';
import { useMeshes } from '../state/mesh-cache';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';

/** What can be done with what is chosen: push, turn, mirror, copy, array, split, unite, offset. */
export function OperationsSection({ owner }: { owner: OwnerRef }) {
  const project = useDocument();
  const selection = useView((v) => v.selection)!;
  const also = useView((v) => v.also);
  const [turnDeg, setTurn] = useState(15);
  const [copies, setCopies] = useState(3);
  const owners = [selection, ...also];
  const body = findBody(project, owner);
  const what = owners.length > 1 ? `${owners.length} objects` : (body?.name ?? 'the chosen');
  const meshes = useMeshes((state) => state.meshes);
  const middle = middleOf(project, owners, meshes);

  return (
    <Section title={owners.length > 1 ? `${owners.length} chosen` : 'Change it'} name="operations">
      {body && owners.length === 1 && selection.face && <PushField owner={owner} face={selection.face} />}
      <NumberField
        label="Turn by"
        unit="° ccw"
        value={turnDeg}
        commit={(value) => {
          setTurn(value);
          return null;
        }}
      />
      <div className="tool-row">
        <ToolButton
          icon={RotateCw}
          name="Turn"
          onClick={() => edit(`turn ${what}`, moveOwners(owners, turnAbout(middle, turnDeg)))}
        />
        <ToolButton
          icon={FlipHorizontal2}
          name="Mirror"
          title="Draw the line to mirror in"
          onClick={() => setView({ tool: { kind: 'draw', shape: 'path', purpose: 'mirror' } })}
        />
        <ToolButton
          icon={Copy}
          name="Copy"
          onClick={() => edit(`copy ${what}`, copyOwners(owners, [shiftBy(2, -2)]))}
        />
      </div>
      <NumberField
        label="Copies in a row"
        value={copies}
        commit={(value) => {
          if (!Number.isInteger(value) || value < 1 || value > 100)
            return 'Between 1 and 100 copies can be made.';
          setCopies(value);
          setArrayCopies(value);
          return null;
        }}
      />
      <div className="tool-row">
        <ToolButton
          icon={Grid3x3}
          name="Array"
          title="Draw the way from one to the next"
          onClick={() => {
            setArrayCopies(copies);
            setView({ tool: { kind: 'draw', shape: 'path', purpose: 'array' } });
          }}
        />
        {owners.length === 2 && owner.optionId !== null && (
          <ToolButton icon={Combine} name="Unite" onClick={() => unite(owners[0]!, owners[1]!)} />
        )}
      </div>
      {body && owner.optionId !== null && owners.length === 1 && body.storeys.length > 1 && (
        <SplitFields key={`${body.id}/${body.storeys.length}`} owner={owner} storeys={body.storeys.length} />
      )}
      {body && owner.optionId !== null && owners.length === 1 && (
        <FootprintFrom owner={owner} face={selection.face ?? null} />
      )}
    </Section>
  );
}

/** The middle of the plan of objects, to the millimetre. */
function middleOf(project: Project, owners: OwnerRef[], meshes: MeshStore): [number, number] {
  const points = owners.flatMap((owner): (readonly [number, number])[] => {
    const found = findOwner(project, owner);
    if (!found) return [];
    if ('footprint' in found) return found.footprint.outer;
    if ('path' in found) return found.path;
    if ('at' in found) return [found.at];
    const mesh = meshes.get(found.mesh);
    if (!mesh) return [];
    const [x0, y0, , x1, y1] = adjoiningModel(found, mesh).box;
    return [
      [x0, y0],
      [x1, y1],
    ];
  });
  if (points.length === 0) return [0, 0];
  const mean = (k: 0 | 1) => points.reduce((sum, p) => sum + p[k], 0) / points.length;
  return [Math.round(mean(0) * 1000) / 1000, Math.round(mean(1) * 1000) / 1000];
}

/** Pushes the touched face by a typed length. */
function PushField({ owner, face }: { owner: OwnerRef; face: string }) {
  const tool = useView((v) => v.tool);
  const project = useDocument();
  const body = findBody(project, owner);
  const push =
    body && pushFace(body, face, [0, 0, 0], project.site.ground, tool.kind === 'push' ? tool.scope : 'wall');
  if (!push) return null;
  return (
    <LengthField
      label={`Push ${face.startsWith('wall') ? `wall ${Number(face.split('/')[2]) + 1}` : 'top'} by`}
      value={0}
      commit={(metres) =>
        edit(
          `push ${push.name}`,
          reshapeBody(owner, (b) => push.apply(b, metres)),
          { quiet: true },
        )
      }
    />
  );
}

/** Storeys from a chosen one on become a mass of their own. */
function SplitFields({ owner, storeys }: { owner: OwnerRef; storeys: number }) {
  const [from, setFrom] = useState(storeys);
  return (
    <div className="with-button">
      <NumberField
        label="Split from storey"
        value={from}
        commit={(value) => {
          if (!Number.isInteger(value) || value < 2 || value > storeys)
            return `A storey from 2 to ${storeys} can be the first of the upper mass.`;
          setFrom(value);
          return null;
        }}
      />
      <ToolButton
        icon={SplitSquareVertical}
        name={from === storeys ? 'Split off top' : 'Split off'}
        title={`Storey ${from} and what is above it become a mass of their own`}
        onClick={() => splitFrom(owner, from - 1)}
      />
    </div>
  );
}

function splitFrom(owner: OwnerRef, storey: number): void {
  const project = currentProject();
  const mass = project.options.find((o) => o.id === owner.optionId)?.masses.find((m) => m.id === owner.id);
  if (!mass) return;
  const upper = { id: newId('mass'), name: cutText(`${mass.name} top`, 80) };
  edit(`split ${mass.name}`, (document) => {
    const [low, high] = splitStoreys(mass, document.site.ground, storey, upper);
    return replaceMass(document, owner, [low, high]);
  });
}

function replaceMass(project: Project, owner: OwnerRef, by: Project['options'][number]['masses']): Project {
  return {
    ...project,
    options: project.options.map((option) =>
      option.id === owner.optionId
        ? { ...option, masses: option.masses.flatMap((m) => (m.id === owner.id ? by : [m])) }
        : option,
    ),
  };
}

function unite(one: OwnerRef, other: OwnerRef): void {
  const mass = (owner: OwnerRef) =>
    currentProject()
      .options.find((o) => o.id === owner.optionId)
      ?.masses.find((m) => m.id === owner.id);
  const [a, b] = [mass(one), mass(other)];
  if (!a || !b) {
    notify('Only masses of an option can be united.', true);
    return;
  }
  const lost = a.openings.length + b.openings.length;
  const refused = edit(`unite ${a.name} and ${b.name}`, (document) =>
    removeOwners([other])(replaceMass(document, one, [uniteMasses(a, b, document.site.ground)])),
  );
  if (refused) return;
  setView({ also: [] });
  if (lost) notify(`${lost} openings of the two went, since their walls are new. Undo brings them back.`);
}

/** A new mass from the chosen one: all round it, or against the touched wall. */
function FootprintFrom({ owner, face }: { owner: OwnerRef; face: string | null }) {
  const [byM, setBy] = useState(2);
  const project = useDocument();
  const body = findBody(project, owner);
  if (!body) return null;
  const at = face?.startsWith('wall/0/')
    ? edgeIndex(normalFootprint(body.footprint), 0, Number(face.split('/')[2]))
    : -1;
  const edge = at < 0 ? null : at;
  const make = (ring: () => [number, number][], name: string) => {
    const id = newId('mass');
    const { floorM } = massLevels(body, project.site.ground);
    const refused = edit(name, (document) => {
      const mass = defaultMass(id, cutText(`${body.name} annex`, 80), ring(), 1, body.storeys[0]!.heightM);
      const base = { on: 'level' as const, levelM: Math.round(floorM * 1000) / 1000 };
      return addMass(owner.optionId!, { ...mass, base })(document);
    });
    if (!refused)
      setView({
        selection: {
          id,
          optionId: owner.optionId,
          layer: owner.optionId === TODAY ? 'today' : 'option',
          wallBearingDeg: null,
        },
        also: [],
      });
  };
  const [fx, fy] = firstCorner(body);
  const outer = normalFootprint(body.footprint).outer;
  return (
    <>
      <LengthField
        label="Offset or depth"
        value={byM}
        commit={(value) => {
          setBy(value);
          return null;
        }}
      />
      <div className="tool-row">
        <button
          className="btn btn-quiet btn-sm"
          title="A mass whose footprint runs at this distance round the chosen one"
          onClick={() => make(() => offsetRing(outer, byM), `offset ${body.name}`)}
        >
          Offset footprint
        </button>
        {edge !== null && (
          <button
            className="btn btn-quiet btn-sm"
            title={`A mass of this depth against wall ${edge + 1}, ${edgeOf(outer, edge).lengthM.toFixed(2)} m long`}
            onClick={() => make(() => footprintFromEdge(outer, edge, byM), `build out from wall ${edge + 1}`)}
          >
            Build out from wall {edge + 1}
          </button>
        )}
      </div>
      <p className="visually-quiet">
        First corner at {fx.toFixed(2)}, {fy.toFixed(2)}.
      </p>
    </>
  );
}
