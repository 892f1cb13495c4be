import {
  add,
  addMass,
  change,
  contains,
  copyOwners,
  editSite,
  findBody,
  newId,
  type Mass,
  mirrorIn,
  moveOwners,
  type Neighbour,
  defaultMass,
  plainRing,
  defaultSpacing,
  type Point2,
  type Project,
  reshapeBody,
  type Ring,
  shiftBy,
  signedArea,
  TODAY,
} from '@dial-shade/core';
import { envelopeInHand, useEnvelopes } from '../envelope/envelope-store';
import { notify } from '../state/notice-store';
import { focusedView, showCamera } from './pane-registry';
import { sectionCamera } from './pane-cameras';
import { activeStudyOf } from '../state/active-study';
import { currentProject, edit } from '../state/project-store';
import { type DrawPurpose, setView, type Tool, useView } from '../state/view-store';

type DrawTool = Extract<Tool, { kind: 'draw' }>;

function done(): void {
  setView({ tool: { kind: 'select' } });
}

/** A drawn outline becomes what it was drawn for. */
export function finishOutline(tool: DrawTool, points: Point2[]): void {
  const ring = plainRing(points);
  const project = currentProject();
  if (tool.purpose === 'target') addTarget(ring);
  else if (tool.purpose === 'boundary') {
    if (!edit('draw the boundary', editSite({ boundary: ring }))) done();
  } else if (tool.purpose === 'area') {
    const id = newId('area');
    const name = `Area ${project.areas.length + 1}`;
    const on =
      tool.levelM === undefined
        ? ({ kind: 'ground' } as const)
        : ({ kind: 'level', levelM: tool.levelM } as const);
    if (!edit(`draw ${name}`, add('areas', { id, name, use: 'garden', outline: ring, on }))) done();
  } else if (tool.purpose === 'buildable' || tool.purpose === 'no-build') drawInEnvelope(tool.purpose, ring);
  else if (tool.purpose === 'court') addCourt(ring);
  else if (tool.purpose === 'neighbour') addNeighbourBuilding(ring);
  else addFootprint(ring);
}

function addTarget(outline: [number, number][]): void {
  const project = currentProject();
  const id = newId('target');
  const spacingM = defaultSpacing(Math.abs(signedArea(outline)));
  const name = `Target ${project.targets.length + 1}`;
  const refused = edit(`draw ${name}`, (document) => {
    const withTarget = add('targets', { id, name, kind: 'ground', outline, spacingM, offsetM: 0.1 })(
      document,
    );
    const active = activeStudyOf(document, useView.getState().activeStudy);
    return {
      ...withTarget,
      studies: withTarget.studies.map((study) =>
        study.id === active?.id && study.targets.length === 0 ? { ...study, targets: [id] } : study,
      ),
    };
  });
  if (!refused) done();
}

function addFootprint(ring: [number, number][]): void {
  const { optionId } = useView.getState();
  const project = currentProject();
  const option = project.options.find((o) => o.id === optionId)!;
  const id = newId('mass');
  const inside = option.masses.find((mass) => ring.every((p) => contains(mass.footprint.outer as Ring, p)));
  const name = `Mass ${option.masses.length + 1}`;
  if (inside) notify(`“${name}” stands within “${inside.name}”; the two overlap in volume.`);
  if (!edit(`draw ${name}`, addMass(optionId, defaultMass(id, name, ring, 2)))) {
    done();
    choose(id, optionId, optionId === TODAY ? 'today' : 'option');
  }
}

function choose(id: string, optionId: string | null, layer: 'today' | 'option' | 'neighbours'): void {
  setView({ selection: { id, optionId, layer, wallBearingDeg: null }, also: [] });
}

function addNeighbour(neighbour: Neighbour): void {
  if (edit(`draw ${neighbour.name}`, add('neighbours', neighbour))) return;
  done();
  choose(neighbour.id, null, 'neighbours');
}

function numbered(project: Project, word: string, kind: Neighbour['kind']): { id: string; name: string } {
  const count = project.neighbours.filter((n) => n.kind === kind).length;
  return { id: newId(word.toLowerCase()), name: `${word} ${count + 1}` };
}

function addNeighbourBuilding(ring: [number, number][]): void {
  const { id, name } = numbered(currentProject(), 'Neighbour', 'building');
  const body: Mass = defaultMass(id, name, ring, 2);
  addNeighbour({ kind: 'building', ...body });
}

/** The outline becomes what may be built on, or a strip that may not. */
function drawInEnvelope(purpose: 'buildable' | 'no-build', ring: [number, number][]): void {
  const envelope = envelopeInHand(currentProject(), useEnvelopes.getState().chosen);
  if (!envelope) return;
  const [name, fields] =
    purpose === 'buildable'
      ? ['draw what may be built on', { build: ring, setbacksM: envelope.setbacksM.slice(0, 1) }]
      : ['draw a strip without buildings', { noBuild: [...envelope.noBuild, ring] }];
  if (!edit(name as string, change('envelopes', envelope.id, fields as Partial<typeof envelope>))) done();
}

/** A court is cut out of the chosen body that it lies in. */
function addCourt(ring: [number, number][]): void {
  const { selection } = useView.getState();
  const body = selection && findBody(currentProject(), selection);
  if (!body) {
    notify('Choose the mass that the court is cut out of first.', true);
    return;
  }
  const cut = edit(
    `cut a court out of ${body.name}`,
    reshapeBody(selection, (b) => ({
      ...b,
      footprint: { ...b.footprint, holes: [...b.footprint.holes, ring] },
    })),
  );
  if (!cut) done();
}

/** A drawn line becomes what it was drawn for. */
export function finishPath(tool: DrawTool, points: Point2[]): void {
  const path = points.map(([x, y]): [number, number] => [x, y]);
  const project = currentProject();
  if (tool.purpose === 'wall')
    addNeighbour({
      kind: 'wall',
      ...numbered(project, 'Wall', 'wall'),
      path,
      heightM: 1.8,
      thicknessM: 0.2,
      demolished: false,
    });
  else if (tool.purpose === 'fence')
    addNeighbour({
      kind: 'fence',
      ...numbered(project, 'Fence', 'fence'),
      path,
      heightM: 1.8,
      openness: 0.3,
      demolished: false,
    });
  else if (tool.purpose === 'partition') addPartition(path, tool.storey ?? 0);
  else if (tool.purpose === 'section') cutAlong(path[0]!, path[1]!);
  else overSelection(tool.purpose, points);
}

/** Cuts the pane with the focus along a line. */
function cutAlong(from: [number, number], to: [number, number]): void {
  const view = focusedView();
  if (view) showCamera(sectionCamera(from, to, view.focusBox));
  done();
}

function addPartition(path: [number, number][], storey: number): void {
  const { selection } = useView.getState();
  const body = selection && findBody(currentProject(), selection);
  if (!body) {
    notify('Choose the mass that the partition stands in first.', true);
    return;
  }
  const id = newId('partition');
  edit(
    `draw a partition in ${body.name}`,
    reshapeBody(selection, (b) => ({ ...b, partitions: [...b.partitions, { id, storey, path }] })),
  );
}

/** How many copies an array along a line makes, the line being the way from one to the next. */
let arrayCopies = 3;

export function setArrayCopies(count: number): void {
  arrayCopies = count;
}

function overSelection(purpose: DrawPurpose, [p, q]: Point2[]): void {
  const { selection, also } = useView.getState();
  const owners = selection ? [selection, ...also] : [];
  if (owners.length === 0) {
    notify('Choose what is meant first.', true);
    return;
  }
  const what = owners.length > 1 ? `${owners.length} objects` : 'the chosen';
  const refused =
    purpose === 'mirror'
      ? edit(`mirror ${what}`, moveOwners(owners, mirrorIn(p!, q!)))
      : edit(
          `array ${what}`,
          copyOwners(
            owners,
            Array.from({ length: arrayCopies }, (_, i) =>
              shiftBy((q![0] - p![0]) * (i + 1), (q![1] - p![1]) * (i + 1)),
            ),
          ),
        );
  if (!refused) done();
}

/** A point on the ground, or on a floor, becomes a tree or a piece of furniture. */
export function finishPoint(tool: DrawTool, p: Point2): void {
  const project = currentProject();
  const at: [number, number] = [p[0], p[1]];
  if (tool.purpose === 'tree') {
    const refused = edit(
      'plant a tree',
      add('neighbours', {
        kind: 'tree',
        ...numbered(project, 'Tree', 'tree'),
        at,
        heightM: 9,
        crownM: 6,
        clearM: 2.5,
        crown: 'round',
        leafOpenness: 0.2,
        bareOpenness: 0.6,
        ...(project.site.place.latitudeDeg >= 0
          ? { leafFrom: '04-20', leafUntil: '10-31' }
          : { leafFrom: '10-20', leafUntil: '04-30' }),
        demolished: false,
      }),
    );
    const planted = currentProject().neighbours.at(-1)!;
    if (!refused) choose(planted.id, null, 'neighbours');
    return;
  }
  const { selection } = useView.getState();
  const body = selection && findBody(project, selection);
  if (!body) {
    notify('Choose the mass that the furniture stands in first.', true);
    return;
  }
  const id = newId('furniture');
  const desk = { id, name: `Desk ${body.furniture.length + 1}`, storey: tool.storey ?? 0, at, turnDeg: 0 };
  edit(
    `put a desk into ${body.name}`,
    reshapeBody(selection, (b) => ({
      ...b,
      furniture: [...b.furniture, { ...desk, widthM: 1.6, depthM: 0.8, heightM: 0.74 }],
    })),
  );
}
