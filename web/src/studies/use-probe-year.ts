import type { MeshStore, PointSky, PointYear, Project } from '@dial-shade/core';
import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { computeWith } from '../workers/compute';

/** A year as the almanac shows it: of a point, or of a surface with the share of it in sun, and who takes its sun, most first. */
export interface ShownYear {
  year: PointYear & { share?: Float32Array };
  obstructions: { owner: number; name: string; hours: number }[];
}

/** Who takes the sun of a year, most first. */
export function obstructionsOf(
  { lostHours }: PointYear,
  owners: readonly string[],
): ShownYear['obstructions'] {
  return Array.from(lostHours, (hours, owner) => ({ owner, hours, name: owners[owner]! }))
    .filter(({ hours }) => hours > 0)
    .sort((a, b) => b.hours - a.hours);
}

/** The year of the active probe with its sky. */
export interface ProbeYear extends ShownYear {
  sky: PointSky;
  /** Names by owner. */
  owners: readonly string[];
}

/** The light of the probe traced last. */
const useFound = create<{ id: string | null; year: ProbeYear | null }>(() => ({ id: null, year: null }));

/** The light of the active probe, once it is traced. */
export function useActiveProbe(): ProbeYear | null {
  const activeProbe = useView((view) => view.activeProbe);
  return useFound((found) => (found.id === activeProbe ? found.year : null));
}

/** The parts of a document that the light of a point depends on; names, studies and viewpoints do not touch it. */
export function lightParts(project: Project): readonly unknown[] {
  const { site, neighbours, neighbourRules, glazings, options } = project;
  return [site, neighbours, neighbourRules, glazings, options];
}

/** A point that is looked at the sky from. */
export interface Point {
  at: [number, number, number];
  normal: [number, number, number];
}

/** Traces the year and the sky of a point in the worker. */
async function lightOfPoint(
  project: Project,
  meshes: MeshStore,
  optionId: string,
  { at, normal }: Point,
): Promise<ProbeYear> {
  const { year, sky, owners } = await computeWith(project, meshes).point(optionId, at, normal);
  return { year, sky, owners, obstructions: obstructionsOf(year, owners) };
}

/** The light of any point, once it is traced. */
export function usePointLight(optionId: string, point: Point | null): ProbeYear | null {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const [found, setFound] = useState<{ point: Point; light: ProbeYear } | null>(null);
  useEffect(() => {
    if (!point) return;
    let current = true;
    void lightOfPoint(project, meshes, optionId, point).then((light) => {
      if (current) setFound({ point, light });
    });
    return () => {
      current = false;
    };
    // oxlint-disable-next-line react/exhaustive-deps
  }, [point, optionId, meshes, ...lightParts(project)]);
  return found && found.point === point ? found.light : null;
}

/** Traces the active probe's year in the worker whenever the probe, the option or the model changes. */
export function useProbeYear(wanted: boolean): ProbeYear | null {
  const found = useActiveProbe();
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const optionId = useView((view) => view.optionId);
  const activeProbe = useView((view) => view.activeProbe);
  const probe = wanted ? project.probes.find((p) => p.id === activeProbe) : undefined;

  useEffect(() => {
    if (!probe) return;
    let current = true;
    const timer = setTimeout(() => {
      void lightOfPoint(project, meshes, optionId, probe).then((year) => {
        if (current) useFound.setState({ id: probe.id, year });
      });
    }, 120);
    return () => {
      current = false;
      clearTimeout(timer);
    };
    // oxlint-disable-next-line react/exhaustive-deps
  }, [probe, optionId, meshes, ...lightParts(project)]);

  return probe ? found : null;
}
