import { type Envelope, type EnvelopeFormat, formatArea, formatLength } from '@dial-shade/core';
import { BadgeCheck, Download } from 'lucide-react';
import { useState } from 'react';
import { ChoiceField, Section } from '../app/fields';
import { saveCsv, saveFile } from '../app/save-file';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, useDocument } from '../state/project-store';
import { flyTo } from '../studies/probe-section';
import { computeAside } from '../workers/compute';
import type { EnvelopeFound } from '../workers/envelope-work';
import { type EnvelopeLook, envelopeParts, useEnvelopes } from './envelope-store';
import { reasonColour } from './reason-colours';

/** What an envelope comes to, how it is looked at, its proof and its files. */
export function AnswerSection({ envelope }: { envelope: Envelope }) {
  const { found, look, contours, isRefining } = useEnvelopes();
  if (found && 'refused' in found)
    return (
      <Section title="How tall it may be">
        <p className="wrong" role="alert">
          {found.refused}
        </p>
      </Section>
    );
  if (!found || found.id !== envelope.id)
    return (
      <Section title="How tall it may be">
        <p className="visually-quiet">Looking at the suns of the windows …</p>
      </Section>
    );
  const { figures, keptOf, reasons, notes } = found;
  return (
    <Section title="How tall it may be">
      <Figures figures={figures} isRefining={isRefining} />
      <div className="pair even">
        <ChoiceField<EnvelopeLook>
          label="Draw it"
          value={look}
          choices={[
            { value: 'glass', name: 'as glass' },
            { value: 'reasons', name: 'by whose sun it is' },
            { value: 'hidden', name: 'not at all' },
          ]}
          commit={(next) => useEnvelopes.setState({ look: next })}
        />
        <ChoiceField
          label="Contours"
          value={contours ?? 'none'}
          choices={[
            { value: 'ground', name: 'over ground' },
            { value: 'datum', name: 'over datum' },
            { value: 'none', name: 'none' },
          ]}
          commit={(by) => useEnvelopes.setState({ contours: by === 'none' ? null : by })}
        />
      </div>
      <ReasonBars
        rows={figures.reasons.map(({ name, areaM2 }) => ({
          name,
          areaM2,
          colour: reasonColour(keptOf[reasons.indexOf(name)]),
        }))}
      />
      {notes.map((note) => (
        <p key={note} className="visually-quiet mb-1">
          {note}
        </p>
      ))}
      <ProofStamp envelope={envelope} />
      <Files envelope={envelope} />
    </Section>
  );
}

type EnvelopeFigures = EnvelopeFound['figures'];

/** What it comes to, in numbers; the highest and the lowest place are gone to by a click. */
function Figures({ figures, isRefining }: { figures: EnvelopeFigures; isRefining: boolean }) {
  const { units } = useDocument();
  const { highest, lowest } = figures;
  const place = (of: NonNullable<typeof highest>): [number, number, number] => [
    of.at[0],
    of.at[1],
    of.levelM,
  ];
  return (
    <dl className={`envelope-figures${isRefining ? ' refining' : ''}`} data-testid="envelope-figures">
      <dt>Floor area under it</dt>
      <dd>
        <strong>{formatArea(figures.floorAreaM2, units)}</strong>
      </dd>
      <dt>Volume</dt>
      <dd>{Math.round(figures.volumeM3).toLocaleString('en')} m³</dd>
      {highest && (
        <>
          <dt>Highest</dt>
          <dd>
            <button className="btn-bare link" onClick={() => flyTo(place(highest))}>
              {formatLength(highest.heightM, units)}
            </button>{' '}
            (level {formatLength(highest.levelM, units)})
          </dd>
        </>
      )}
      {lowest && (
        <>
          <dt>Lowest</dt>
          <dd>
            <button className="btn-bare link" onClick={() => flyTo(place(lowest))}>
              {formatLength(lowest.heightM, units)}
            </button>
          </dd>
        </>
      )}
      <dt>To build on</dt>
      <dd>{formatArea(figures.areaM2, units)}</dd>
      {figures.unlimitedM2 > 0 && (
        <>
          <dt>Without limit</dt>
          <dd>{formatArea(figures.unlimitedM2, units)}</dd>
        </>
      )}
    </dl>
  );
}

/** Reasons that are listed one by one; the others together. */
const LISTED = 6;

/** Which area or limit decides how much of it. */
function ReasonBars({ rows }: { rows: { name: string; areaM2: number; colour: string }[] }) {
  const { units } = useDocument();
  const ordered = [...rows].sort((a, b) => b.areaM2 - a.areaM2);
  const all = rows.reduce((sum, { areaM2 }) => sum + areaM2, 0);
  if (all === 0) return <p>Nothing limits it: no sun of the windows passes over what may be built on.</p>;
  const rest = ordered.slice(LISTED);
  const shown = [
    ...ordered.slice(0, LISTED),
    ...(rest.length > 0
      ? [
          {
            name: `${rest.length} more`,
            areaM2: rest.reduce((sum, { areaM2 }) => sum + areaM2, 0),
            colour: '#8d877b',
          },
        ]
      : []),
  ];
  return (
    <div
      className="reason-bars"
      data-testid="reasons"
      role="list"
      aria-label="What decides the height, by area"
    >
      {shown.map(({ name, areaM2, colour }) => (
        <div key={name} role="listitem">
          <span>{name}</span>
          <span className="bar" aria-hidden>
            <span style={{ width: `${(areaM2 / all) * 100}%`, background: colour }} />
          </span>
          <span className="figure">{formatArea(areaM2, units)}</span>
        </div>
      ))}
    </div>
  );
}

/** Proof by tracing, on demand; it goes when anything changes. */
function ProofStamp({ envelope }: { envelope: Envelope }) {
  const project = useDocument();
  const proof = useEnvelopes((state) => state.proof);
  const [isAtWork, setAtWork] = useState(false);
  const about = envelopeParts(project, envelope);
  const holds = proof && proof.about.every((part, i) => part === about[i]);
  const prove = async () => {
    setAtWork(true);
    const found = await computeAside(currentProject(), useMeshes.getState().meshes).prove(envelope.id);
    setAtWork(false);
    if ('refused' in found) notify(found.refused, true);
    else useEnvelopes.setState({ proof: { of: found, about } });
  };
  if (!holds)
    return (
      <button className="btn btn-quiet btn-sm mb-2" disabled={isAtWork} onClick={() => void prove()}>
        <BadgeCheck size={14} /> {isAtWork ? 'Tracing …' : 'Prove it by tracing'}
      </button>
    );
  const { rays, blocked, raised, shading } = proof.of;
  return (
    <p className={`stamp${blocked > 0 ? ' wrong' : ''}`} data-testid="proof">
      <BadgeCheck size={16} />{' '}
      {blocked === 0
        ? `Filled to the surface, none of ${rays.toLocaleString('en')} rays to kept sun is taken.`
        : `${blocked.toLocaleString('en')} of ${rays.toLocaleString('en')} rays to kept sun are taken.`}{' '}
      {raised > 0 &&
        `Built 0.2 m higher, sun is taken at ${shading === raised ? `all ${raised}` : `${shading} of ${raised}`} places tried${
          shading === raised ? '.' : '; at the others a last sun only touches a corner.'
        }`}
    </p>
  );
}

const FILES: { format: EnvelopeFormat | 'csv' | 'obj'; name: string; type: string }[] = [
  { format: 'obj', name: 'OBJ', type: 'text/plain' },
  { format: 'glb', name: 'GLB', type: 'model/gltf-binary' },
  { format: 'stl', name: 'STL', type: 'model/stl' },
  { format: 'dxf', name: 'DXF', type: 'image/vnd.dxf' },
  { format: 'geojson', name: 'GeoJSON', type: 'application/geo+json' },
  { format: 'csv', name: 'CSV', type: 'text/csv' },
];

function Files({ envelope }: { envelope: Envelope }) {
  const save = async ({ format, type }: (typeof FILES)[number]) => {
    const bytes = await computeAside(currentProject(), useMeshes.getState().meshes).envelopeFile(
      envelope.id,
      format,
    );
    const name = envelope.name.replaceAll(/[^\p{L}\p{N}_-]+/gu, '-');
    if (format === 'csv') saveCsv(new TextDecoder().decode(bytes), `${name}.csv`);
    else saveFile(bytes.slice().buffer, `${name}.${format}`, type);
  };
  return (
    <div className="d-flex gap-1 flex-wrap mb-1" role="group" aria-label="Save the envelope as">
      <Download size={14} className="mt-1" aria-hidden />
      {FILES.map((file) => (
        <button key={file.format} className="btn btn-quiet btn-sm" onClick={() => void save(file)}>
          {file.name}
        </button>
      ))}
    </div>
  );
}
