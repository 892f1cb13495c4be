import { changeDevice, type Device, type Option } from '@dial-shade/core';
import { Ruler } from 'lucide-react';
import { CheckField, ChoiceField, LengthField, NumberField, Section } from '../app/fields';
import { edit, useDocument } from '../state/project-store';
import { useGlass } from './glass-store';
import { Answer, AnswerInRoom, makeOf, type Sizes } from './size-answer';
import { SizeTable } from './size-table';
import { type Sizing, useSizing } from './use-sizing';

/** The smallest device that keeps so much of the glass in shade. */
export function SizeSection({
  option,
  schemeId,
  device,
}: {
  option: Option;
  schemeId: string;
  device: Device;
}) {
  const { zone } = useDocument().site.place;
  const { chosen, now } = useGlass();
  const sizing = useSizing(option.id, device);
  const { wish, free, goalOf, isOfGlass, against, isAtWork, found, inRoom } = sizing;
  const isThere = now.some(({ key }) => key === chosen);
  const hang = (sizes: Sizes) =>
    edit(
      `size ${device.name}`,
      changeDevice(option.id, schemeId, device.id, { make: makeOf(device.make, sizes) }),
    );
  return (
    <Section title="Size for" name="size">
      <FreeFields sizing={sizing} />
      <UnwantedFields sizing={sizing} />
      <GoalFields sizing={sizing} />
      <button
        className="btn btn-quiet mb-2"
        disabled={isAtWork || !isThere}
        onClick={() => void sizing.find()}
      >
        <Ruler size={13} /> {isAtWork ? 'Sizing' : 'Find the size'}
      </button>
      {isOfGlass && found && <Answer found={found} zone={zone} hang={() => hang(found)} />}
      {!isOfGlass && inRoom && <AnswerInRoom found={inRoom} zone={zone} hang={() => hang(inRoom)} />}
      {goalOf === 'glass' && (
        <SizeTable
          option={option}
          schemeId={schemeId}
          device={device}
          size={{
            number: free.number,
            from: free.from,
            to: free.to,
            goal: wish.goal / 100,
            each: wish.each,
          }}
          against={against}
          disabled={!isThere}
        />
      )}
    </Section>
  );
}

/** Which numbers of the device are free. */
function FreeFields({ sizing: { choices, free, also, change } }: { sizing: Sizing }) {
  return (
    <>
      <ChoiceField
        label="Free is"
        value={free.number}
        choices={choices.map(({ number: value, name }) => ({ value, name }))}
        commit={(number) => change({ number })}
      />
      {choices.length > 1 && (
        <ChoiceField
          label="And"
          value={also?.number ?? ''}
          choices={[
            { value: '', name: 'nothing else' },
            ...choices
              .filter((one) => one !== free)
              .map(({ number: value, name }) => ({ value, name: `${name}: least of it all` })),
          ]}
          commit={(second) => change({ second })}
        />
      )}
    </>
  );
}

/** Which sun is unwanted. */
function UnwantedFields({ sizing: { wish, change } }: { sizing: Sizing }) {
  const { hourSets } = useDocument();
  const { hours } = wish;
  return (
    <>
      <ChoiceField
        label="Unwanted"
        value={wish.against}
        choices={[
          { value: 'now', name: 'the sun at the moment' },
          { value: 'day', name: 'the sun of hours on this day' },
          ...hourSets.map(({ id, name }) => ({ value: id, name: `hours of “${name}”` })),
        ]}
        commit={(against) => change({ against })}
      />
      {wish.against === 'day' && (
        <div className="pair even">
          <NumberField
            label="From"
            unit="h"
            value={hours.from}
            commit={(value) => hourOf(value, (from) => change({ hours: { ...hours, from } }))}
          />
          <NumberField
            label="To"
            unit="h"
            value={hours.to}
            commit={(value) =>
              value <= hours.from
                ? `It must be after ${hours.from} h.`
                : hourOf(value, (to) => change({ hours: { ...hours, to } }))
            }
          />
        </div>
      )}
    </>
  );
}

/** What the device is to come to. */
function GoalFields({ sizing: { wish, change, goalOf, isSet } }: { sizing: Sizing }) {
  return (
    <>
      <ChoiceField
        label="Goal"
        value={goalOf}
        choices={[
          { value: 'glass', name: 'so much of the glass in shade' },
          ...(isSet ? [{ value: 'kWh' as const, name: 'so little sun on the glass' }] : []),
          { value: 'depth', name: 'no sun deeper in the room than' },
          { value: 'furniture', name: 'no sun on its furniture' },
        ]}
        commit={(of) => change({ of })}
      />
      {goalOf === 'depth' && (
        <LengthField
          label="At most"
          value={wish.deepestM}
          commit={(deepestM) => {
            if (!(deepestM >= 0 && deepestM <= 50)) return 'From 0 to 50 m behind the facade.';
            change({ deepestM });
            return null;
          }}
        />
      )}
      {goalOf === 'kWh' && (
        <NumberField
          label="At most"
          unit="kWh"
          value={wish.atMostKWh}
          commit={(atMostKWh) => {
            if (!(atMostKWh >= 0 && atMostKWh <= 1e6)) return 'Some kWh of these hours, from 0 up.';
            change({ atMostKWh });
            return null;
          }}
        />
      )}
      {goalOf === 'glass' && (
        <NumberField
          label="In shade, at least"
          unit="%"
          value={wish.goal}
          commit={(goal) => {
            if (!(goal > 0 && goal <= 100)) return 'A share of the glass above 0 and up to 100 %.';
            change({ goal });
            return null;
          }}
        />
      )}
      {goalOf === 'glass' && wish.against !== 'now' && (
        <CheckField
          label="At each moment, not only over all"
          checked={wish.each}
          change={(each) => change({ each })}
        />
      )}
    </>
  );
}

function hourOf(value: number, take: (value: number) => void): string | null {
  if (!Number.isInteger(value) || value < 0 || value > 24) return 'A whole hour from 0 to 24.';
  take(value);
  return null;
}
