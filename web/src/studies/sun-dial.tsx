import { type Study, STUDY_KINDS } from '@dial-shade/core';
import { useEffect, useId, useRef, useState } from 'react';
import { CheckField } from '../app/fields';
import { ChartButtons } from '../climate/chart-buttons';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { SkyChart } from '../sun/sky-chart';
import { computeWith } from '../workers/compute';
import { sunDialCsv } from './sun-dial-csv';
import type { Point, ProbeYear } from './use-probe-year';

/**
 * The sky of a point, stereographic: what stands in it, in the colour of who takes its sun, the paths of the sun, and on
 * request how much of what a study measures comes from where.
 */
export function SunDial({
  light,
  point,
  study,
  name,
}: {
  light: ProbeYear;
  point: Point;
  study: Study;
  name: string;
}) {
  const [isWeighed, setWeighed] = useState(false);
  const svg = useRef<SVGSVGElement>(null);
  const id = useId();
  const patches = useSkyWeights(study, isWeighed ? point : null);
  const [measure] = STUDY_KINDS[study.kind].measures;
  return (
    <>
      <SkyChart
        projection="stereographic"
        light={light}
        patches={patches}
        svg={svg}
        label="Sun dial: the sky of the probe with obstructions and sun paths"
      />
      {STUDY_KINDS[study.kind].weights && (
        <CheckField
          label={<span id={id}>Patches by their {measure.label.toLowerCase()}</span>}
          checked={isWeighed}
          change={setWeighed}
        />
      )}
      <ChartButtons svg={svg} name={name} csv={() => sunDialCsv(light)} />
    </>
  );
}

/** What each patch of the sky sends to a point, by what a study measures; null until it is known, and without a point. */
function useSkyWeights(study: Study, point: Point | null): Float64Array | null {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const [found, setFound] = useState<{ point: Point; patches: Float64Array } | null>(null);
  const { site } = project;
  useEffect(() => {
    if (!point) return;
    let current = true;
    void computeWith(project, meshes)
      .skyWeights(study.id, point.normal)
      .then((weights) => {
        if (current && weights && 'patches' in weights) setFound({ point, patches: weights.patches });
      });
    return () => {
      current = false;
    };
    // What comes from where goes by the study and the site alone.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [point, study, site, meshes]);
  return point && found?.point === point ? found.patches : null;
}
