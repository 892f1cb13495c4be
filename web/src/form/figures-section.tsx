import {
  facadeAreas,
  findBody,
  formatArea,
  formatLength,
  type MassFigures,
  massFigures,
  massLevels,
  type MassShape,
  type Option,
  type OwnerRef,
  SECTORS,
} from '@dial-shade/core';
import { Section } from '../app/fields';
import { useOpenings } from '../openings/use-openings';
import { useDocument } from '../state/project-store';

/** Figures of the chosen body, and of the whole option. */
export function FiguresSection({ option, owner }: { option: Option; owner: OwnerRef | null }) {
  const project = useDocument();
  const body = owner && findBody(project, owner);
  const masses = option.masses.filter(({ device }) => !device);
  return (
    <>
      {body && (
        <Section title={`${body.name} in figures`} name="figures of a body">
          <Figures bodies={[body]} optionId={option.id} />
        </Section>
      )}
      {masses.length > 0 && (
        <Section title={`${option.letter} ${option.name} in all`} name="figures">
          <Figures bodies={masses} optionId={option.id} />
        </Section>
      )}
    </>
  );
}

function Figures({ bodies, optionId }: { bodies: readonly MassShape[]; optionId: string }) {
  const project = useDocument();
  const { units, site } = project;
  const figures = bodies.map(massFigures);
  const sum = (key: keyof MassFigures) => figures.reduce((all, f) => all + f[key], 0);
  const levels = bodies.map((body) => massLevels(body, site.ground));
  const low = Math.min(...levels.map((l) => l.floorM));
  const top = Math.max(...levels.map((l) => l.topM));
  const openings = useOpenings(optionId);
  const facades = facadeAreas(
    bodies.map((body) => openings.fitted(body)),
    site.north.trueNorthDeg,
  );
  return (
    <>
      <dl className="facts">
        <dt>Footprint</dt>
        <dd>{formatArea(sum('footprintM2'), units)}</dd>
        <dt>Floor area</dt>
        <dd>{formatArea(sum('floorM2'), units)}</dd>
        <dt>Volume</dt>
        <dd>{Math.round(sum('volumeM3')).toLocaleString('en')} m³</dd>
        <dt>Top above its floor</dt>
        <dd>{formatLength(top - low, units)}</dd>
        <dt title="Above the level 0 of the project">Top level</dt>
        <dd>{formatLength(top, units)}</dd>
      </dl>
      <table className="figures">
        <thead>
          <tr>
            <th scope="col">Faces</th>
            <th scope="col">facade</th>
            <th scope="col">glazed</th>
            <th scope="col" title="Walls that other bodies stand against">
              party
            </th>
          </tr>
        </thead>
        <tbody>
          {SECTORS.map((sector) => {
            const { facadeM2, glazedM2, partyM2 } = facades[sector];
            return (
              <tr key={sector}>
                <th scope="row">{sector}</th>
                <td>{formatArea(facadeM2, units)}</td>
                <td>{facadeM2 > 0 ? `${Math.round((glazedM2 / facadeM2) * 100)} %` : '–'}</td>
                <td>{partyM2 > 0.05 ? formatArea(partyM2, units) : '–'}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}
