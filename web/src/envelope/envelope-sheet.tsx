import { add, change, type Envelope, formatArea, formatLength, newId, remove } from '@dial-shade/core';
import { Copy, Plus, Shield, Trash2 } from 'lucide-react';
import { Section, TextField } from '../app/fields';
import { IconButton, ThingRow, ToolButton } from '../app/objects';
import { currentProject, edit, useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { AgainstSection } from './against-section';
import { AnswerSection } from './answer-section';
import { BuildSection } from './build-section';
import { envelopeInHand, useEnvelopes } from './envelope-store';
import { FillSection } from './fill-section';
import { HoursSection } from './hours-section';
import { KeepSection } from './keep-section';
import { useEnvelopeFound } from './use-envelope';

/** How tall may be built without taking sun that is to be kept. */
export function EnvelopeSheet() {
  const project = useDocument();
  const { envelopes, options } = project;
  const chosen = useEnvelopes((state) => state.chosen);
  const optionId = useView((view) => view.optionId);
  const envelope = envelopeInHand(project, chosen);
  const option = options.find(({ id }) => id === optionId) ?? options[0]!;
  useEnvelopeFound(envelope, option.id);
  const choose = (id: string) => useEnvelopes.setState({ chosen: id, kept: 0, proof: null });
  return (
    <>
      <h1>Envelope</h1>
      <Section
        title="Envelopes"
        aside={<IconButton icon={Plus} label="Add an envelope" onClick={() => addEnvelope(choose)} />}
      >
        {envelopes.length === 0 ? (
          <p>
            How tall may it be? Say whose sun is to be kept, and when; the envelope is the highest that takes
            none of it.
          </p>
        ) : (
          <ul className="objects">
            {envelopes.map((one) => (
              <ThingRow
                key={one.id}
                name={one.name}
                chosen={one.id === envelope?.id}
                onChoose={() => choose(one.id)}
              >
                <IconButton
                  icon={Copy}
                  label={`Copy ${one.name}`}
                  onClick={() => {
                    const id = newId('envelope');
                    if (!edit(`copy ${one.name}`, add('envelopes', { ...one, id, name: `${one.name} copy` })))
                      choose(id);
                  }}
                />
                <IconButton
                  icon={Trash2}
                  label={`Remove ${one.name}`}
                  onClick={() => edit(`remove ${one.name}`, remove('envelopes', one.id))}
                />
              </ThingRow>
            ))}
          </ul>
        )}
        {envelope && (
          <TextField
            key={envelope.id}
            label="Name"
            value={envelope.name}
            commit={(name) =>
              edit('rename an envelope', change('envelopes', envelope.id, { name }), { quiet: true })
            }
          />
        )}
        {envelope && <Lead envelope={envelope} />}
        <div className="d-flex gap-1 flex-wrap mb-1">
          {envelopes.length === 0 && (
            <ToolButton icon={Plus} name="New envelope" main onClick={() => addEnvelope(choose)} />
          )}
          <ToolButton
            icon={Shield}
            name="Keep clear round about"
            title="An envelope over the land around the boundary: above it building would take sun from what is kept"
            disabled={!project.site.boundary}
            onClick={() => addKeepClear(choose)}
          />
        </div>
      </Section>
      {envelope && (
        <>
          <KeepSection key={`k-${envelope.id}`} envelope={envelope} />
          <BuildSection key={`b-${envelope.id}`} envelope={envelope} />
          <AnswerSection envelope={envelope} />
          <AgainstSection envelope={envelope} option={option} />
          <FillSection envelope={envelope} />
          <HoursSection key={`h-${envelope.id}`} envelope={envelope} />
        </>
      )}
    </>
  );
}

/** What it comes to, in a line. */
function Lead({ envelope }: { envelope: Envelope }) {
  const { units } = useDocument();
  const { found, isRefining } = useEnvelopes();
  if (!found || 'refused' in found || found.id !== envelope.id) return null;
  const { floorAreaM2, highest } = found.figures;
  return (
    <p className={`mb-1${isRefining ? ' visually-quiet' : ''}`} data-testid="envelope-lead">
      <strong>{formatArea(floorAreaM2, units)}</strong> of floor in storeys of{' '}
      {formatLength(envelope.storeyM, units)}
      {highest && `, up to ${formatLength(highest.heightM, units)} high`}.
    </p>
  );
}

const BLANK: Omit<Envelope, 'id' | 'name'> = {
  ...{ keep: [], build: null, setbacksM: [], noBuild: [], limit: null, slope: null },
  ...{ lost: 'keep', storeyM: 3.2, spacingM: 1 },
};

/** The equinox from 10 to 15. */
function equinox(year: number): Envelope['keep'][number]['windows'] {
  return [{ from: `${year}-03-21`, to: `${year}-03-21`, startMinutes: 600, endMinutes: 900 }];
}

function addEnvelope(choose: (id: string) => void): void {
  const { envelopes, areas, site } = currentProject();
  const id = newId('envelope');
  const name = `Envelope ${envelopes.length + 1}`;
  const keep = areas.slice(0, 1).map((area) => ({
    on: 'area' as const,
    id: area.id,
    option: null,
    basis: 'clock' as const,
    windows: equinox(site.year),
  }));
  if (!edit(`add ${name}`, add('envelopes', { ...BLANK, id, name, keep }))) choose(id);
}

/** How far round the boundary land is looked at, metres. */
const AROUND_M = 25;

/** Over the land around the boundary, which itself is left out. */
function addKeepClear(choose: (id: string) => void): void {
  const { envelopes, site } = currentProject();
  const boundary = site.boundary!;
  const [xs, ys] = [boundary.map(([x]) => x), boundary.map(([, y]) => y)];
  const [x0, y0, x1, y1] = [
    Math.min(...xs) - AROUND_M,
    Math.min(...ys) - AROUND_M,
    Math.max(...xs) + AROUND_M,
    Math.max(...ys) + AROUND_M,
  ];
  const id = newId('envelope');
  const name = `Keep clear ${envelopes.length + 1}`;
  const build: [number, number][] = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
  const noBuild = [boundary.map(([x, y]): [number, number] => [x, y])];
  const limit = { over: 'ground' as const, heightM: 30 };
  if (!edit(`add ${name}`, add('envelopes', { ...BLANK, id, name, build, noBuild, limit }))) choose(id);
}
