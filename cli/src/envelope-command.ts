import {
  breachesCsv,
  ENVELOPE_FORMATS,
  ENVELOPE_METHOD,
  envelopeBreaches,
  envelopeCsv,
  envelopeField,
  envelopeFile,
  envelopeFigures,
  type EnvelopeFigures,
  envelopeObj,
  InputError,
  proveEnvelope,
  requireEnvelope,
  requireOption,
  type CsvForm,
} from '@dial-shade/core';
import { Command } from 'commander';
import { readProject, writeFolder } from './project-file';
import { csvOption } from './csv-option';

interface Options {
  envelope: string;
  spacing?: string;
  option?: string;
  also?: string;
  prove?: boolean;
  out: string;
  csv: CsvForm;
  json?: boolean;
}

const round = (value: number) => Math.round(value * 1e4) / 1e4;

const told = (of: EnvelopeFigures['highest']) =>
  of && {
    x: round(of.at[0]),
    y: round(of.at[1]),
    level_m: round(of.levelM),
    over_ground_m: round(of.heightM),
  };

/** `envelope`: how tall may be built without taking sun that is to be kept. */
export function envelopeCommand(): Command {
  return new Command('envelope')
    .description('how tall may be built, point by point, without taking sun that is to be kept')
    .argument('<project>', 'project file')
    .requiredOption('--envelope <envelope>', 'name or id of an envelope of the project')
    .option('--spacing <metres>', 'distance between the points; the envelope’s when left out')
    .option('--option <option>', 'hold this option against it: breaches.csv, and `breaches` in the summary')
    .option('--also <formats>', `further files, of ${ENVELOPE_FORMATS.join(', ')}, commas between`)
    .option('--prove', 'trace what is filled up to it, and 0.2 m over it')
    .requiredOption('--out <folder>', 'where heights.csv, envelope.obj and summary.json go')
    .addOption(csvOption())
    .option('--json', 'print the summary')
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const envelope = requireEnvelope(project, options.envelope);
      const spacing = options.spacing === undefined ? envelope.spacingM : Number(options.spacing);
      if (!(spacing >= 0.05 && spacing <= 50))
        throw new InputError('spacing', `--spacing is a number from 0.05 to 50, not “${options.spacing}”.`);
      const field = envelopeField(project, envelope, spacing, meshes);
      const figures = envelopeFigures(field, envelope);
      const { zone } = project.site.place;
      const formats = (options.also ?? '')
        .split(',')
        .map((format) => format.trim())
        .filter(Boolean);
      const unknown = formats.find((format) => !ENVELOPE_FORMATS.some((one) => one === format));
      if (unknown !== undefined)
        throw new InputError('also', `--also takes ${ENVELOPE_FORMATS.join(', ')}, not “${unknown}”.`);
      const breaches =
        options.option === undefined
          ? null
          : envelopeBreaches(project, requireOption(project, options.option).id, envelope, meshes);
      const proof = options.prove ? proveEnvelope(project, envelope, meshes) : null;
      const summary = {
        envelope: envelope.name,
        method: ENVELOPE_METHOD.number,
        spacing_m: spacing,
        points: figures.points,
        area_m2: round(figures.areaM2),
        unlimited_m2: round(figures.unlimitedM2),
        volume_m3: round(figures.volumeM3),
        storey_m: envelope.storeyM,
        floor_area_m2: round(figures.floorAreaM2),
        highest: told(figures.highest),
        lowest: told(figures.lowest),
        reasons: figures.reasons.map(({ name, areaM2 }) => ({ name, area_m2: round(areaM2) })),
        keep: envelope.keep.map(({ on, id, windows }) => ({ on, id, windows })),
        notes: field.notes,
        ...(breaches && {
          option: options.option,
          breaches: {
            built_m3: round(breaches.builtM3),
            over_m3: round(breaches.overM3),
            outside_m3: round(breaches.outsideM3),
            owners: breaches.owners.map(({ id, name, volumeM3 }) => ({
              id,
              name,
              volume_m3: round(volumeM3),
            })),
          },
        }),
        ...(proof && { proof }),
      };
      const text = JSON.stringify(summary, null, 1);
      const files = await Promise.all(
        ENVELOPE_FORMATS.filter((format) => formats.includes(format)).map(
          async (format) =>
            [`envelope.${format}`, await envelopeFile(project, envelope, meshes, format)] as const,
        ),
      );
      await writeFolder(options, {
        'heights.csv': envelopeCsv(field, zone),
        'envelope.obj': envelopeObj(field, envelope.name),
        'summary.json': `${text}\n`,
        ...(breaches && { 'breaches.csv': breachesCsv(breaches, zone) }),
        ...Object.fromEntries(files),
      });
      if (options.json) console.log(text);
      else
        console.log(
          `${envelope.name}: ${figures.points.toLocaleString('en')} points over ${figures.areaM2.toFixed(0)} m²; ` +
            `${figures.volumeM3.toFixed(0)} m³ and ${figures.floorAreaM2.toFixed(0)} m² of floor where it is limited` +
            `${figures.unlimitedM2 > 0 ? `, nothing limits ${figures.unlimitedM2.toFixed(0)} m²` : ''}` +
            `${figures.highest ? `; highest ${figures.highest.heightM.toFixed(2)} m over the ground` : ''}`,
        );
    });
}
