import {
  type Breaches,
  bounds,
  type ContourLine,
  contourLines,
  type CutManner,
  cutToFit,
  type Envelope,
  envelopeBreaches,
  envelopeField,
  envelopeFigures,
  type EnvelopeFigures,
  envelopeFile,
  type EnvelopeFormat,
  envelopeLattice,
  envelopeCsv,
  envelopeObj,
  type EnvelopeShell,
  envelopeShell,
  EnvelopeSolver,
  fillEnvelope,
  fillSloped,
  type FillWish,
  InputError,
  type MeshStore,
  type Project,
  proveEnvelope,
  requireEnvelope,
} from '@dial-shade/core';
import { longer } from '../envelope/longer-windows';
import { refusing } from './refusing';

/** An envelope as the page shows it. */
export interface EnvelopeFound {
  id: string;
  isCoarse: boolean;
  shell: EnvelopeShell;
  /** A line of equal height with the heights that it is labelled with. */
  contours: (ContourLine & { overM: number; groundM: number })[];
  figures: EnvelopeFigures;
  reasons: string[];
  keptOf: number[];
  notes: string[];
}

/** Nodes of the surface while something moves, and at rest. */
const NODES = { coarse: 700, fine: 9000 } as const;
/** Nodes of a body that is kept: coarser, as it is a mesh of the project. */
const SLOPED_NODES = 2500;
/** Points of the figures while something moves. */
const COARSE_POINTS = 400;
/** Contours at most, about. */
const CONTOURS = 14;

/** Floor area under an envelope for so many hours that are kept on each day. */
export interface HoursCost {
  /** Minutes that each window is longer at either end; shorter where negative. */
  byMinutes: number;
  /** Hours of the windows of one day, the mean of all. */
  hours: number;
  floorAreaM2: number;
  volumeM3: number;
}

/** Minutes by which windows are made longer and shorter. */
const BY_MINUTES = [-120, -90, -60, -30, 0, 30, 60, 90, 120];

interface Held {
  project: Project;
  meshes: MeshStore;
}

/** What is asked about envelopes, of the document at hand. */
export function envelopeWork(held: () => Held) {
  return {
    /** How tall may be built. */
    envelope: (id: string, isCoarse: boolean, over: 'ground' | 'datum') =>
      refusing(() => findEnvelope(held(), id, isCoarse, over)),

    /** What of an option stands out of it. */
    breaches: (id: string, optionId: string): Breaches | { refused: string } =>
      refusing(() => {
        const { project, meshes } = held();
        return envelopeBreaches(project, optionId, requireEnvelope(project, id), meshes);
      }),

    fill: (id: string, wish: FillWish) =>
      refusing(() => {
        const { project, meshes } = held();
        const envelope = requireEnvelope(project, id);
        const solver = new EnvelopeSolver(project, envelope, meshes);
        const lattice = envelopeLattice(solver, envelope, stepFor(solver, 14_000));
        return fillEnvelope(project, envelope, solver, lattice, wish);
      }),

    /** The same up to the surface: one body with a sloping top. */
    fillSloped: (id: string, storeyM: number) =>
      refusing(() => {
        const { project, meshes } = held();
        const envelope = requireEnvelope(project, id);
        const solver = new EnvelopeSolver(project, envelope, meshes);
        const lattice = envelopeLattice(solver, envelope, stepFor(solver, SLOPED_NODES));
        return fillSloped(project, envelope, solver, lattice, storeyM);
      }),

    cut: (id: string, optionId: string, manner: CutManner, leastDepthM: number) =>
      refusing(() => {
        const { project, meshes } = held();
        return cutToFit(project, optionId, requireEnvelope(project, id), meshes, manner, leastDepthM);
      }),

    prove: (id: string) =>
      refusing(() => {
        const { project, meshes } = held();
        return proveEnvelope(project, requireEnvelope(project, id), meshes)!;
      }),

    hoursCost: (id: string) => refusing(() => hoursCost(held(), id)),

    envelopeFile: async (id: string, format: EnvelopeFormat | 'csv' | 'obj'): Promise<Uint8Array> => {
      const { project, meshes } = held();
      const envelope = requireEnvelope(project, id);
      if (format !== 'csv' && format !== 'obj') return await envelopeFile(project, envelope, meshes, format);
      const field = envelopeField(project, envelope, envelope.spacingM, meshes);
      return new TextEncoder().encode(
        format === 'csv' ? envelopeCsv(field, project.site.place.zone) : envelopeObj(field, envelope.name),
      );
    },
  };
}

/** The distance between nodes with which there are about so many. */
function stepFor({ outline }: EnvelopeSolver, nodes: number): number {
  const { minX, minY, maxX, maxY } = bounds(outline);
  const step = Math.sqrt(((maxX - minX) * (maxY - minY)) / nodes);
  return Math.max(0.1, Math.min(2, Number(step.toPrecision(2))));
}

function findEnvelope(
  { project, meshes }: Held,
  id: string,
  isCoarse: boolean,
  over: 'ground' | 'datum',
): EnvelopeFound {
  const envelope = requireEnvelope(project, id);
  const solver = new EnvelopeSolver(project, envelope, meshes);
  const lattice = envelopeLattice(solver, envelope, stepFor(solver, isCoarse ? NODES.coarse : NODES.fine));
  const { minX, minY, maxX, maxY } = bounds(solver.outline);
  const coarse = Math.max(envelope.spacingM, Math.sqrt(((maxX - minX) * (maxY - minY)) / COARSE_POINTS));
  const field = envelopeField(project, envelope, isCoarse ? coarse : envelope.spacingM, meshes);
  const figures = envelopeFigures(field, envelope);
  const { highest, lowest } = figures;
  const span = highest && lowest ? highest.heightM - lowest.heightM : 0;
  const every = [0.5, 1, 2, 5, 10, 20, 50].find((step) => span / step <= CONTOURS) ?? 100;
  return {
    ...{ id, isCoarse, figures },
    shell: envelopeShell(solver, lattice),
    contours: contourLines(lattice, every, over).map((line) => {
      const [x, y] = line.points[Math.floor(line.points.length / 2)]!;
      const groundM = solver.groundAt([x, y]);
      return over === 'datum'
        ? { ...line, overM: line.levelM - groundM, groundM }
        : { ...line, levelM: line.levelM + groundM, overM: line.levelM, groundM };
    }),
    reasons: field.reasons,
    keptOf: field.keptOf,
    notes: field.notes,
  };
}

function hoursCost({ project, meshes }: Held, id: string): HoursCost[] {
  const envelope = requireEnvelope(project, id);
  const windows = envelope.keep.flatMap((kept) => kept.windows);
  if (windows.length === 0)
    throw new InputError('envelope', 'Nothing keeps its sun yet, so no hour costs anything.');
  const { minX, minY, maxX, maxY } = bounds(new EnvelopeSolver(project, envelope, meshes).outline);
  const cellM = Math.max(envelope.spacingM, Math.sqrt(((maxX - minX) * (maxY - minY)) / 700));
  return BY_MINUTES.flatMap((byMinutes): HoursCost[] => {
    const keep = envelope.keep.map((kept) => ({ ...kept, windows: longer(kept.windows, byMinutes) }));
    const all = keep.flatMap((kept) => kept.windows);
    if (all.length < windows.length) return [];
    const asked: Envelope = { ...envelope, keep };
    const figures = envelopeFigures(envelopeField(project, asked, cellM, meshes), asked);
    const hours = all.reduce((sum, one) => sum + (one.endMinutes - one.startMinutes) / 60, 0) / all.length;
    return [{ byMinutes, hours, floorAreaM2: figures.floorAreaM2, volumeM3: figures.volumeM3 }];
  });
}
