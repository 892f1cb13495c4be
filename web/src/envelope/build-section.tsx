import { change, type Envelope, findBody, formatArea, normalFootprint, signedArea } from '@dial-shade/core';
import { Ban, Hexagon, Square, Trash2 } from 'lucide-react';
import { CheckField, ChoiceField, LengthField, NumberField, Section } from '../app/fields';
import { IconButton, ThingRow, ToolButton } from '../app/objects';
import { edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';

interface Editing {
  envelope: Envelope;
  set: (fields: Partial<Envelope>, name?: string) => string | null;
}

/** Where it may be built, and what else limits it. */
export function BuildSection({ envelope }: { envelope: Envelope }) {
  const set = (fields: Partial<Envelope>, name = `change ${envelope.name}`) =>
    edit(name, change('envelopes', envelope.id, fields), { quiet: true });
  return (
    <Section title="Build on">
      <OutlineFields envelope={envelope} set={set} />
      <SetbackFields envelope={envelope} set={set} />
      <LimitFields envelope={envelope} set={set} />
      <CheckField
        label="Leave sun that what stands takes already"
        checked={envelope.lost === 'leave'}
        change={(on) => void set({ lost: on ? 'leave' : 'keep' })}
      />
      <div className="pair even">
        <LengthField label="Storey" value={envelope.storeyM} commit={(storeyM) => set({ storeyM })} />
        <LengthField
          label="Points apart"
          value={envelope.spacingM}
          commit={(spacingM) => set({ spacingM })}
        />
      </div>
    </Section>
  );
}

/** What may be built on, and where nothing may. */
function OutlineFields({ envelope, set }: Editing) {
  const project = useDocument();
  const { site, units } = project;
  const tool = useView((view) => view.tool);
  const selection = useView((view) => view.selection);
  const body = selection ? findBody(project, selection) : null;
  const draw = (purpose: 'buildable' | 'no-build', shape: 'rectangle' | 'polygon') =>
    setView({ tool: { kind: 'draw', shape, purpose } });
  const isDrawing = (purpose: string, shape: string) =>
    tool.kind === 'draw' && tool.purpose === purpose && tool.shape === shape;
  return (
    <>
      <ChoiceField
        label="Outline"
        value={envelope.build ? 'own' : 'boundary'}
        choices={[
          {
            value: 'boundary',
            name: site.boundary ? 'the boundary of the site' : 'the boundary (none drawn)',
          },
          { value: 'own', name: 'one of its own' },
        ]}
        commit={(which) => {
          if (which === 'boundary') set({ build: null, setbacksM: envelope.setbacksM.slice(0, 1) });
          else if (site.boundary) set({ build: site.boundary.map(([x, y]): [number, number] => [x, y]) });
          else draw('buildable', 'polygon');
        }}
      />
      <div className="d-flex gap-1 flex-wrap mb-2">
        <ToolButton
          icon={Square}
          name="Rectangle"
          title="Draw what may be built on as a rectangle"
          main={(envelope.build ?? site.boundary) === null}
          active={isDrawing('buildable', 'rectangle')}
          onClick={() => draw('buildable', 'rectangle')}
        />
        <ToolButton
          icon={Hexagon}
          name="Outline"
          title="Draw what may be built on corner by corner"
          active={isDrawing('buildable', 'polygon')}
          onClick={() => draw('buildable', 'polygon')}
        />
        {body && (
          <ToolButton
            icon={Hexagon}
            name="Footprint"
            title={`Take the footprint of “${body.name}”`}
            onClick={() => {
              const { outer } = normalFootprint(body.footprint);
              set(
                { build: outer.map(([x, y]): [number, number] => [x, y]), setbacksM: [] },
                `build on the footprint of ${body.name}`,
              );
            }}
          />
        )}
        <ToolButton
          icon={Ban}
          name="No-build strip"
          title="Draw where nothing may be built"
          active={isDrawing('no-build', 'polygon')}
          onClick={() => draw('no-build', 'polygon')}
        />
      </div>
      {envelope.noBuild.length > 0 && (
        <ul className="objects">
          {envelope.noBuild.map((strip, k) => (
            <ThingRow key={k} name={`Strip ${k + 1}`} figure={formatArea(Math.abs(signedArea(strip)), units)}>
              <IconButton
                icon={Trash2}
                label={`Remove strip ${k + 1}`}
                onClick={() => set({ noBuild: envelope.noBuild.filter((_, i) => i !== k) }, 'remove a strip')}
              />
            </ThingRow>
          ))}
        </ul>
      )}
    </>
  );
}

/** How far what is built stays off the edges of the outline. */
function SetbackFields({ envelope, set }: Editing) {
  const { boundary } = useDocument().site;
  const { setbacksM } = envelope;
  const ring = envelope.build ?? boundary;
  if (!ring) return null;
  const isEach = setbacksM.length === ring.length && ring.length > 1;
  return (
    <>
      <CheckField
        label="Each edge has its own setback"
        checked={isEach}
        change={(on) => {
          const most = Math.max(0, ...setbacksM);
          set({ setbacksM: on ? ring.map(() => most) : most > 0 ? [most] : [] });
        }}
      />
      {isEach ? (
        <div className="pair even">
          {ring.map((_, i) => (
            <LengthField
              key={i}
              label={`Edge ${i + 1}`}
              value={setbacksM[i]!}
              commit={(d) => set({ setbacksM: setbacksM.map((v, k) => (k === i ? d : v)) })}
            />
          ))}
        </div>
      ) : (
        <LengthField
          label="Setback"
          value={setbacksM[0] ?? 0}
          commit={(d) => set({ setbacksM: d === 0 ? [] : [d] })}
        />
      )}
    </>
  );
}

/** How high it may be, and the line of slope from the outline. */
function LimitFields({ envelope: { limit, slope }, set }: Editing) {
  return (
    <>
      <div className="pair even">
        <ChoiceField
          label="Height limit"
          value={limit?.over ?? 'none'}
          choices={[
            { value: 'none', name: 'none' },
            { value: 'ground', name: 'over ground' },
            { value: 'datum', name: 'over datum' },
          ]}
          commit={(over) =>
            void set({ limit: over === 'none' ? null : { over, heightM: limit?.heightM ?? 20 } })
          }
        />
        {limit && (
          <LengthField
            label="At most"
            value={limit.heightM}
            commit={(heightM) => set({ limit: { ...limit, heightM } })}
          />
        )}
      </div>
      <CheckField
        label="A line of slope from the outline"
        checked={slope !== null}
        change={(on) => void set({ slope: on ? { fromM: 4, rise: 1 } : null })}
      />
      {slope && (
        <div className="pair even">
          <LengthField
            label="At the outline"
            value={slope.fromM}
            commit={(fromM) => set({ slope: { ...slope, fromM } })}
          />
          <NumberField
            label="Per metre"
            unit="m"
            value={slope.rise}
            commit={(rise) => set({ slope: { ...slope, rise } })}
          />
        </div>
      )}
    </>
  );
}
