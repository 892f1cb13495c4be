import {
  facadeAreas,
  massFigures,
  massLevels,
  modelProblems,
  openingsIn,
  requireOption,
  TODAY,
} from '@dial-shade/core';
import { Command } from 'commander';
import { optionId, readProject } from './project-file';

/** `figures`: areas, volume, levels and facades of the masses of an option, and what is worth a look. */
export function figuresCommand(): Command {
  return new Command('figures')
    .description('areas, volume, levels and facades of an option')
    .argument('<project>', 'project file')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--json', 'print JSON')
    .action(async (path: string, options: { option?: string; json?: boolean }) => {
      const { project, meshes } = await readProject(path);
      const id = optionId(project, options.option ?? TODAY);
      const openings = openingsIn(project, id, meshes);
      const { ground, north } = project.site;
      const bodies = requireOption(project, id).masses.filter(({ device }) => !device);
      const masses = bodies.map((mass) => ({
        id: mass.id,
        name: mass.name,
        storeys: mass.storeys.length,
        ...massFigures(mass),
        ...massLevels(mass, ground),
        facades: facadeAreas([openings.fitted(mass)], north.trueNorthDeg),
      }));
      const sum = (key: 'footprintM2' | 'floorM2' | 'volumeM3') => masses.reduce((all, m) => all + m[key], 0);
      const total = {
        footprintM2: sum('footprintM2'),
        floorM2: sum('floorM2'),
        volumeM3: sum('volumeM3'),
        facades: facadeAreas(
          bodies.map((mass) => openings.fitted(mass)),
          north.trueNorthDeg,
        ),
      };
      const problems = modelProblems(project, id, meshes).map(({ kind, weight, sentence }) => ({
        kind,
        weight,
        sentence,
      }));
      if (options.json) {
        console.log(JSON.stringify({ option: id, masses, total, problems }, null, 1));
        return;
      }
      for (const m of masses)
        console.log(
          `${m.name}: footprint ${m.footprintM2.toFixed(1)} m², floors ${m.floorM2.toFixed(1)} m², volume ${m.volumeM3.toFixed(1)} m³, floor at ${m.floorM.toFixed(2)} m, top at ${m.topM.toFixed(2)} m`,
        );
      console.log(
        `In all: footprint ${total.footprintM2.toFixed(1)} m², floors ${total.floorM2.toFixed(1)} m², volume ${total.volumeM3.toFixed(1)} m³`,
      );
      for (const { sentence } of problems) console.log(sentence);
    });
}
