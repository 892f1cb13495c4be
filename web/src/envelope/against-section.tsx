import {
  change,
  clockAt,
  type CutManner,
  type Envelope,
  formatArea,
  formatClock,
  formatLength,
  type Option,
  TODAY,
} from '@dial-shade/core';
import { Crosshair, Scissors } from 'lucide-react';
import { useState } from 'react';
import { longDate } from '../almanac/wording';
import { CheckField, ChoiceField, LengthField, Section } from '../app/fields';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setMoment } from '../state/view-store';
import { flyTo } from '../studies/probe-section';
import { computeAside } from '../workers/compute';
import { useEnvelopes } from './envelope-store';
import { reasonColour } from './reason-colours';

/** What an option has over the envelope, from whom it takes sun and when; and the option cut to fit. */
export function AgainstSection({ envelope, option }: { envelope: Envelope; option: Option }) {
  const { units, site } = useDocument();
  const { breaches, found, showsBreaches } = useEnvelopes();
  const of =
    breaches?.optionId === option.id && breaches.id === envelope.id && found && !('refused' in found)
      ? breaches.of
      : null;
  const outM3 = of ? of.overM3 + of.outsideM3 : 0;
  const title = `${option.id === TODAY ? 'Today' : `${option.letter} ${option.name}`} against it`;
  const colourOf = (reason: number) =>
    reason < 0 || !found || 'refused' in found ? '#b9584c' : reasonColour(found.keptOf[reason]);
  const look = ({ worst }: NonNullable<typeof of>['by'][number]) => {
    flyTo([worst.at[0], worst.at[1], worst.levelM]);
    if (Number.isNaN(worst.atMs)) return;
    const { date, minutes } = clockAt(worst.atMs, site.place.zone);
    setMoment(date, minutes);
  };
  return (
    <Section title={title} name="option against the envelope">
      {!of ? (
        <p className="visually-quiet">Looking at what stands out …</p>
      ) : of.builtM3 === 0 ? (
        <p className="visually-quiet">Nothing is proposed here.</p>
      ) : outM3 === 0 ? (
        <p data-testid="breaches">
          All of it stays under the envelope: {Math.round(of.builtM3).toLocaleString('en')} m³.
        </p>
      ) : (
        <>
          <p className="mb-1" data-testid="breaches">
            <strong>{Math.round(outM3).toLocaleString('en')} m³</strong> of{' '}
            {Math.round(of.builtM3).toLocaleString('en')} m³ stick out
            {of.outsideM3 > 0 &&
              `, ${Math.round(of.outsideM3).toLocaleString('en')} m³ of them where nothing may be built`}
            .
          </p>
          <ul className="objects">
            {of.by.map((one) => (
              <li key={one.name}>
                <span className="swatch-box" style={swatch(colourOf(one.reason))} />
                <button
                  className="name"
                  title={
                    Number.isNaN(one.worst.atMs) ? 'Look at the worst place' : 'Look at the worst place, then'
                  }
                  onClick={() => look(one)}
                >
                  {one.name}
                  <small>
                    {' '}
                    up to {formatLength(one.worst.overM, units)} over
                    {whenText(one.worst.atMs, site.place.zone)}
                  </small>
                </button>
                <span className="figure">{Math.round(one.volumeM3).toLocaleString('en')} m³</span>
                <Crosshair size={13} aria-hidden />
              </li>
            ))}
          </ul>
          <CheckField
            label="Colour what sticks out"
            checked={showsBreaches}
            change={(on) => useEnvelopes.setState({ showsBreaches: on })}
          />
          {option.id !== TODAY && <CutFields envelope={envelope} option={option} />}
        </>
      )}
    </Section>
  );
}

const swatch = (colour: string) => ({ background: colour, borderColor: colour });

function whenText(atMs: number, zone: string): string {
  if (Number.isNaN(atMs)) return '';
  const { date, minutes } = clockAt(atMs, zone);
  return `, ${longDate(date)} ${formatClock(minutes)}`;
}

/** The option cut until it fits. */
function CutFields({ envelope, option }: { envelope: Envelope; option: Option }) {
  const { units } = useDocument();
  const [manner, setManner] = useState<CutManner>('set back');
  const [depthM, setDepth] = useState(6);
  const [isAtWork, setAtWork] = useState(false);
  const cut = async () => {
    setAtWork(true);
    const found = await computeAside(currentProject(), useMeshes.getState().meshes).cut(
      envelope.id,
      option.id,
      manner,
      depthM,
    );
    setAtWork(false);
    if ('refused' in found) {
      notify(found.refused, true);
      return;
    }
    if (found.masses.length === 0) {
      notify(`Nothing of “${option.name}” fits under it in this manner; it is left as it is.`, true);
      return;
    }
    const refused = edit(`cut ${option.name} to fit`, change('options', option.id, { masses: found.masses }));
    if (!refused)
      notify(
        `${found.said.join(' ')} Floor area: ${formatArea(found.floorAreaBeforeM2, units)} before, ${formatArea(found.floorAreaM2, units)} now.`,
      );
  };
  return (
    <>
      <div className="pair even">
        <ChoiceField<CutManner>
          label="Cut by"
          value={manner}
          choices={[
            { value: 'set back', name: 'setting back' },
            { value: 'lower', name: 'lowering' },
          ]}
          commit={setManner}
        />
        <LengthField
          label="Least depth"
          value={depthM}
          commit={(d) => {
            if (!(d >= 1 && d <= 100)) return 'From 1 to 100 m.';
            setDepth(d);
            return null;
          }}
        />
      </div>
      <button className="btn btn-quiet btn-sm mb-2" disabled={isAtWork} onClick={() => void cut()}>
        <Scissors size={14} /> {isAtWork ? 'Cutting …' : 'Cut to fit'}
      </button>
    </>
  );
}
