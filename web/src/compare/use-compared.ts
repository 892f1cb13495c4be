import {
  type Variant,
  variantOf,
  InputError,
  meansAnything,
  ROOM_PRESETS,
  type MeasureValues,
  type Project,
  type Study,
  studyValues,
  type StudyResult,
  TODAY,
} from '@dial-shade/core';
import { useEffect, useMemo } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { currentProject, forgetWithProject, useDocument } from '../state/project-store';
import { type ResultState, standingOf } from '../state/result-state';
import { loadResult, loadSignature, useRuns } from '../state/run-store';
import { computeAside } from '../workers/compute';
import { useCompare } from './compare-store';
import { chosenVariants, chosenMeasures } from './compared';

/** A figure of an option in the table: what it is, and whether it still matches the model. */
export interface ComparedCell {
  value: number | null;
  passes?: boolean;
  /** What changed since it was found; empty when nothing. */
  changes: readonly string[];
  isAtWork: boolean;
  /** Of a study whose targets mean nothing that stands there. */
  isNotApplicable?: boolean;
}

/** How a study of what is compared stands. */
export interface Standing {
  study: Study;
  variant: Variant;
  state: ResultState;
  /** Its targets mean nothing that stands there: there is nothing to bring up to date. */
  isNotApplicable: boolean;
}

/** The studies that the measures shown are of. */
export function comparedStudies(project: Project): Study[] {
  const wanted = new Set(
    chosenMeasures(project).flatMap(({ group, source }) => (group === 'study' ? [source] : [])),
  );
  return project.studies.filter(({ id }) => wanted.has(id));
}

/** Whether a figure is told against Today. */
export const isAgainstToday = (key: string) => /^study\/[^/]+\/(takes$|from\/)/.test(key);

/** Of what results are needed: what is shown, and Today where losses are told. */
function neededVariants(project: Project): Variant[] {
  const shown = chosenVariants(project);
  const today = variantOf(project, TODAY);
  const needsToday = chosenMeasures(project).some(({ key }) => isAgainstToday(key));
  return needsToday && today && !shown.some(({ id }) => id === TODAY) ? [...shown, today] : shown;
}

/** How all studies that are compared stand in all options. */
export function useStandings(): Standing[] {
  const project = useDocument();
  const runs = useRuns((state) => state.runs);
  const results = useRuns((state) => state.results);
  const atOnce = useRuns((state) => state.atOnce);
  const meshes = useMeshes((state) => state.meshes);
  const standings = useMemo(
    () =>
      comparedStudies(project).flatMap((study) =>
        neededVariants(project).map((variant): Standing => {
          const state = standingOf(project, study.id, variant.id);
          const isNotApplicable = !state.active && !meansAnything(project, variant.id, study, meshes);
          return { study, variant, state, isNotApplicable };
        }),
      ),
    // What stands where is told by these.
    // oxlint-disable-next-line react/exhaustive-deps
    [project, meshes, runs, results, atOnce],
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

/** Every figure that is shown, by what is compared and measure. */
export function useComparedCells(standings: readonly Standing[]): Map<string, Record<string, ComparedCell>> {
  const project = useDocument();
  const values = useCompare((state) => state.values);
  return useMemo(() => {
    const measures = chosenMeasures(project);
    const standing = new Map(standings.map((one) => [`${one.study.id}/${one.variant.id}`, one]));
    return new Map(
      chosenVariants(project).map(({ id }) => {
        const cells: Record<string, ComparedCell> = {};
        for (const { key, group, source } of measures) {
          if (group !== 'study') {
            const own = values[id]?.[key];
            cells[key] = { value: null, changes: [], isAtWork: !(id in values), ...own };
            continue;
          }
          const here = standing.get(`${source}/${id}`);
          if (!here) continue;
          const { study, state } = here;
          const today = standing.get(`${source}/${TODAY}`)?.state ?? null;
          const own =
            state.result && !here.isNotApplicable
              ? valuesOf(project, study, state.result, id === TODAY ? null : (today?.result ?? null))[key]
              : undefined;
          const late = isAgainstToday(key) ? (today?.changes ?? []) : [];
          cells[key] = {
            value: null,
            changes: here.isNotApplicable ? [] : [...state.changes, ...late],
            isAtWork: state.active !== null,
            isNotApplicable: here.isNotApplicable,
            ...own,
          };
        }
        return [id, cells];
      }),
    );
  }, [project, values, standings]);
}

/** What the figures of a variant were last made of. */
const madeOf = new Map<string, readonly unknown[]>();
forgetWithProject(() => madeOf.clear());

/** Keeps massing, envelopes and rooms of what is compared true to the model. */
export function usePlainValues(): void {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const measures = chosenMeasures(project);
  const envelopes = measures.flatMap(({ group, source }) => (group === 'envelope' ? [source!] : [])).join();
  const withRooms = measures.some(({ group }) => group === 'rooms');
  useEffect(() => {
    let isWanted = true;
    const timer = setTimeout(() => {
      void (async () => {
        const document = currentProject();
        const today = document.options.find(({ id }) => id === TODAY);
        const assumed = withRooms ? ROOM_PRESETS[document.comparison.rooms] : null;
        const chosen = chosenVariants(document);
        for (const { id, option } of chosen) {
          const { site: at, glazings: glass, areas: on, targets: to, neighbours: by } = document;
          const of: unknown[] = [option, today, assumed, at, glass, on, to, by, document.neighbourRules];
          of.push(document.envelopes, envelopes, meshes);
          if (madeOf.get(id)?.every((part, i) => part === of[i])) continue;
          const found = await computeAside(document, meshes).comparedValues(
            id,
            envelopes === '' ? [] : envelopes.split(','),
            assumed,
          );
          if (!isWanted) return;
          madeOf.set(id, of);
          const values = 'refused' in found ? {} : (found as MeasureValues);
          useCompare.setState((state) => ({ values: { ...state.values, [id]: values } }));
        }
      })();
    }, 250);
    return () => {
      isWanted = false;
      clearTimeout(timer);
    };
  }, [project, envelopes, withRooms, meshes]);
}
