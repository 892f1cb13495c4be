import { SKY_PROJECTIONS, type SkyProjection } from '@dial-shade/core';
import { Download } from 'lucide-react';
import { useRef, useState } from 'react';
import { ChoiceField, Section } from '../app/fields';
import { savePng, saveSvg } from '../app/save-chart';
import { useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { useProbeYear } from '../studies/use-probe-year';
import { SkyChart } from './sky-chart';

/** The paths of the sun over this place, flat, in step with the almanac; taken out as SVG or PNG. */
export function PathSection() {
  const { probes, site } = useDocument();
  const activeProbe = useView((view) => view.activeProbe);
  const [projection, setProjection] = useState<SkyProjection>('stereographic');
  const svg = useRef<SVGSVGElement>(null);
  const light = useProbeYear(true);
  const name = `sun-path_${site.place.latitudeDeg.toFixed(2)}_${projection}`;
  return (
    <Section title="Sun-path chart" name="sun-path">
      <ChoiceField
        label="Projection"
        value={projection}
        choices={SKY_PROJECTIONS.map((one) => ({ value: one.projection, name: one.name }))}
        commit={setProjection}
      />
      {probes.length > 0 && (
        <ChoiceField
          label="Sky of"
          value={activeProbe ?? ''}
          choices={[
            { value: '', name: 'an open place' },
            ...probes.map(({ id, number }) => ({ value: id, name: `Probe ${number}` })),
          ]}
          commit={(id) => setView({ activeProbe: id || null })}
        />
      )}
      <SkyChart
        projection={projection}
        light={light}
        svg={svg}
        label="Sun-path chart: drag along the path of the day"
      />
      <div className="d-flex gap-1">
        <button className="btn btn-quiet btn-sm" onClick={() => saveSvg(svg.current!, name)}>
          <Download size={13} /> Chart as SVG
        </button>
        <button className="btn btn-quiet btn-sm" onClick={() => void savePng(svg.current!, name)}>
          <Download size={13} /> Chart as PNG
        </button>
      </div>
    </Section>
  );
}
