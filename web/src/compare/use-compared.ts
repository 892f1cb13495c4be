import {
  InputError,
  type MeasureValues,
  type Option,
  type Project,
  type Study,
  studyValues,
  type StudyResult,
  TODAY,
} from '@dial-shade/core';
import { useEffect, useMemo } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { currentProject, useDocument } from '../state/project-store';
import { loadResult, loadSignature, type ResultState, standingOf, useRuns } from '../state/run-store';
import { computeAside } from '../workers/compute';
import { chosenMeasures, chosenOptions, useCompare } from './compare-store';

/** A figure of an option in the table: what it is, and whether it still matches the model. */
export interface ComparedCell {
  value: number | null;
  passes?: boolean;
  /** What changed since it was found; empty when nothing. */
  changes: readonly string[];
  isAtWork: boolean;
}

/** How a study of an option stands. */
export interface Standing {
  study: Study;
  option: Option;
  state: ResultState;
}

/** The studies that the measures shown are of. */
export function comparedStudies(project: Project): Study[] {
  const wanted = new Set(
    chosenMeasures(project).flatMap(({ group, source }) => (group === 'study' ? [source] : [])),
  );
  return project.studies.filter(({ id }) => wanted.has(id));
}

/** Options whose results are needed: those shown, and Today where losses are told. */
function neededOptions(project: Project): Option[] {
  const shown = chosenOptions(project);
  const today = project.options.find(({ id }) => id === TODAY);
  const needsToday = chosenMeasures(project).some(({ key }) => key.endsWith('/takes'));
  return needsToday && today && !shown.includes(today) ? [...shown, today] : shown;
}

/** How all studies that are compared stand in all options. */
export function useStandings(): Standing[] {
  const project = useDocument();
  const runs = useRuns((state) => state.runs);
  const results = useRuns((state) => state.results);
  const atOnce = useRuns((state) => state.atOnce);
  const standings = useMemo(
    () =>
      comparedStudies(project).flatMap((study) =>
        neededOptions(project).map((option): Standing => ({
          study,
          option,
          state: standingOf(project, study.id, option.id),
        })),
      ),
    // What stands where is told by these.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [project, runs, results, atOnce],
  );
  useEffect(() => {
    for (const { state } of standings) {
      if (state.shown && !state.result) void loadResult(state.shown.id);
      if (state.shown && !state.shown.signature) void loadSignature(state.shown.id);
    }
  }, [standings]);
  return standings;
}

/** What the figures of a result are made of besides it, and the figures. */
const known = new WeakMap<StudyResult, { parts: readonly unknown[]; values: MeasureValues }>();

function valuesOf(
  project: Project,
  study: Study,
  result: StudyResult,
  today: StudyResult | null,
): MeasureValues {
  const found = known.get(result);
  const parts = [today, study, project.criteria];
  if (found?.parts.every((part, i) => part === parts[i])) return found.values;
  let values: MeasureValues;
  try {
    values = studyValues(project, study, result, today);
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    values = studyValues(project, study, result, null);
  }
  known.set(result, { parts, values });
  return values;
}

/** Every figure that is shown, by option and measure. */
export function useComparedCells(standings: readonly Standing[]): Map<string, Record<string, ComparedCell>> {
  const project = useDocument();
  const values = useCompare((state) => state.values);
  return useMemo(() => {
    const measures = chosenMeasures(project);
    const standing = new Map(standings.map((one) => [`${one.study.id}/${one.option.id}`, one]));
    return new Map(
      chosenOptions(project).map((option) => {
        const cells: Record<string, ComparedCell> = {};
        for (const { key, group, source } of measures) {
          if (group !== 'study') {
            const own = values[option.id]?.[key];
            cells[key] = { value: null, changes: [], isAtWork: !(option.id in values), ...own };
            continue;
          }
          const here = standing.get(`${source}/${option.id}`);
          if (!here) continue;
          const { study, state } = here;
          const today = standing.get(`${source}/${TODAY}`)?.state ?? null;
          const own = state.result
            ? valuesOf(project, study, state.result, option.id === TODAY ? null : (today?.result ?? null))[
                key
              ]
            : undefined;
          const late = key.endsWith('/takes') ? (today?.changes ?? []) : [];
          cells[key] = {
            value: null,
            changes: [...state.changes, ...late],
            isAtWork: state.active !== null,
            ...own,
          };
        }
        return [option.id, cells];
      }),
    );
  }, [project, values, standings]);
}

/** Keeps massing and envelopes of all options true to the model. */
export function usePlainValues(): void {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const envelopes = chosenMeasures(project)
    .flatMap(({ group, source }) => (group === 'envelope' ? [source!] : []))
    .join();
  const { options, site, glazings, areas, targets, neighbours, envelopes: all } = project;
  useEffect(() => {
    let isWanted = true;
    const timer = setTimeout(() => {
      void (async () => {
        for (const { id } of options) {
          const found = await computeAside(currentProject(), meshes).comparedValues(
            id,
            envelopes === '' ? [] : envelopes.split(','),
          );
          if (!isWanted) return;
          const values = 'refused' in found ? {} : (found as MeasureValues);
          useCompare.setState((state) => ({ values: { ...state.values, [id]: values } }));
        }
      })();
    }, 250);
    return () => {
      isWanted = false;
      clearTimeout(timer);
    };
  }, [options, site, glazings, areas, targets, neighbours, all, envelopes, meshes]);
}
