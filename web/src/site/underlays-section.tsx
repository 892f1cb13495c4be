import { change, formatLength, remove, type Underlay } from '@dial-shade/core';
import { Eye, EyeOff, Lock, LockOpen, MapPinned, Ruler, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { FileField, LengthField, NumberField, Section, ShareField, TextField } from '../app/fields';
import { later } from '../app/later';
import { IconButton, ThingRow, ToolButton } from '../app/objects';
import { edit, endGesture, useDocument } from '../state/project-store';
import { setView, type Tool, useView } from '../state/view-store';
import { layUnderlay } from './lay-underlay';
import { forgetPoints, useUnderlays } from './underlay-store';

const PdfDialog = later(async () => (await import('./pdf-dialog')).PdfDialog);

/** Pictures on the ground, to be traced over: laid, scaled, placed, turned, faded, locked, hidden. */
export function UnderlaysSection() {
  const { underlays, units } = useDocument();
  const chosenId = useUnderlays(({ chosen }) => chosen);
  const [wrong, setWrong] = useState<string | null>(null);
  const [pdf, setPdf] = useState<File | null>(null);
  const [reading, setReading] = useState<string | null>(null);
  const chosen = underlays.find(({ id }) => id === chosenId);
  const read = async (file: File) => {
    setWrong(null);
    if (/\.pdf$/i.test(file.name) || file.type === 'application/pdf') {
      setPdf(file);
      return;
    }
    setReading(file.name);
    setWrong(await layUnderlay(file, file.name.replace(/\.[a-z]+$/i, '')));
    setReading(null);
  };
  return (
    <Section title={`Pictures on the ground (${underlays.length})`} name="Pictures on the ground">
      <FileField
        label="Lay one there"
        title="A plan or an aerial photograph: PNG, JPEG, or a page of a PDF"
        accept=".png,.jpg,.jpeg,.webp,.pdf,image/png,image/jpeg,image/webp,application/pdf"
        wrong={wrong}
        read={(file) => void read(file)}
      />
      {reading && <p role="status">Reading “{reading}” …</p>}
      <ul className="objects" aria-label="Pictures on the ground">
        {underlays.map((underlay) => (
          <UnderlayRow key={underlay.id} underlay={underlay} isChosen={underlay === chosen} units={units} />
        ))}
      </ul>
      {chosen && <UnderlayFields key={chosen.id} underlay={chosen} />}
      {pdf && (
        <PdfDialog
          file={pdf}
          onClose={(refused) => {
            setPdf(null);
            setWrong(refused);
          }}
        />
      )}
    </Section>
  );
}

const set = (underlay: Underlay, what: string, fields: Partial<Underlay>) =>
  edit(`${what} ${underlay.name}`, change('underlays', underlay.id, fields), { quiet: true });

function UnderlayRow({
  underlay,
  isChosen,
  units,
}: {
  underlay: Underlay;
  isChosen: boolean;
  units: 'metric' | 'imperial';
}) {
  const { id, name, scaled, locked, shown, widthPx, metresPerPixel } = underlay;
  const figure = scaled ? `${formatLength(widthPx * metresPerPixel, units, 1)} wide` : 'not to scale yet';
  return (
    <ThingRow
      name={name}
      figure={figure}
      chosen={isChosen}
      onChoose={() => useUnderlays.setState({ chosen: isChosen ? null : id })}
    >
      <IconButton
        icon={shown ? Eye : EyeOff}
        label={`${shown ? 'Hide' : 'Show'} ${name}`}
        onClick={() => void set(underlay, shown ? 'hide' : 'show', { shown: !shown })}
      />
      <IconButton
        icon={locked ? Lock : LockOpen}
        label={`${locked ? 'Unlock' : 'Lock'} ${name}`}
        pressed={locked}
        onClick={() => void set(underlay, locked ? 'unlock' : 'lock', { locked: !locked })}
      />
      <IconButton
        icon={Trash2}
        label={locked ? `${name} is locked; unlock it to remove it` : `Remove ${name}`}
        disabled={locked}
        onClick={() => edit(`remove ${name}`, remove('underlays', id))}
      />
    </ThingRow>
  );
}

/** Begins to click on a picture, or ends it. */
function take(kind: 'scale-underlay' | 'fit-underlay', { id }: Underlay, isAtHand: boolean): void {
  forgetPoints();
  setView({ tool: isAtHand ? { kind: 'select' } : ({ kind, underlay: id } satisfies Tool) });
}

function UnderlayFields({ underlay }: { underlay: Underlay }) {
  const tool = useView((v) => v.tool);
  const { name, at, turnDeg, opacity, widthPx, metresPerPixel, locked, shown, scaled } = underlay;
  const isScaling = tool.kind === 'scale-underlay' && tool.underlay === underlay.id;
  const isFitting = tool.kind === 'fit-underlay' && tool.underlay === underlay.id;
  return (
    <>
      <TextField label="Name" value={name} commit={(next) => set(underlay, 'rename', { name: next })} />
      <ShareField
        label="Strength"
        value={opacity}
        least={0.05}
        change={(next) =>
          void edit(`fade ${name}`, change('underlays', underlay.id, { opacity: next }), {
            gestureKey: `fade-${underlay.id}`,
            quiet: true,
          })
        }
        rest={endGesture}
      />
      {locked && <p className="visually-quiet">It is locked: it is seen, and cannot be moved.</p>}
      {!locked && (
        <>
          <div className="tool-row">
            <ToolButton
              main={!scaled}
              icon={Ruler}
              name="Scale by two points"
              active={isScaling}
              disabled={!shown}
              onClick={() => take('scale-underlay', underlay, isScaling)}
            />
            <ToolButton
              icon={MapPinned}
              name="Point on point"
              title="A point of the picture onto its place; a second pair turns it"
              active={isFitting}
              disabled={!shown}
              onClick={() => take('fit-underlay', underlay, isFitting)}
            />
          </div>
          <div className="pair even">
            {([0, 1] as const).map((k) => (
              <LengthField
                key={k}
                label={`Middle, ${'xy'[k]}`}
                value={at[k]}
                commit={(value) =>
                  set(underlay, 'move', { at: at.map((v, i) => (i === k ? value : v)) as [number, number] })
                }
              />
            ))}
            <LengthField
              label="Width"
              value={widthPx * metresPerPixel}
              commit={(width) => set(underlay, 'scale', { metresPerPixel: width / widthPx, scaled: true })}
            />
            <NumberField
              label="Turned"
              unit="°"
              value={turnDeg}
              commit={(next) => set(underlay, 'turn', { turnDeg: next })}
            />
          </div>
        </>
      )}
    </>
  );
}
