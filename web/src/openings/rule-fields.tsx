import { type OpeningRule, type RuleMake } from '@dial-shade/core';
import { CheckField, LengthField, NumberField } from '../app/fields';
import { useView } from '../state/view-store';
import { useOpenings } from './use-openings';

/** The figures that a rule works with, by what it makes. */
export function MakeFields({
  make,
  set,
}: {
  make: RuleMake;
  set: (fields: Partial<RuleMake>) => string | null;
}) {
  const length = (label: string, key: string, value: number) => (
    <LengthField
      key={key}
      label={label}
      value={value}
      commit={(metres) => set({ [key]: metres } as Partial<RuleMake>)}
    />
  );
  if (make.by === 'ratio')
    return (
      <>
        <NumberField
          label="Ratio"
          unit="%"
          digits={1}
          value={make.ratio * 100}
          commit={(percent) => set({ ratio: percent / 100 })}
        />
        {length('Sill', 'sillM', make.sillM)}
        {length('Head', 'headM', make.headM)}
        {length('Jamb margin', 'jambM', make.jambM)}
        {length('Bay (0: one band)', 'bayM', make.bayM)}
      </>
    );
  if (make.by === 'size')
    return (
      <>
        {length('Width', 'widthM', make.widthM)}
        {length('Height', 'heightM', make.heightM)}
        {length('Spacing', 'spacingM', make.spacingM)}
        {length('Sill', 'sillM', make.sillM)}
        {length('Jamb margin', 'jambM', make.jambM)}
      </>
    );
  if (make.by === 'door')
    return (
      <>
        {length('Width', 'widthM', make.widthM)}
        {length('Height', 'heightM', make.heightM)}
        <CheckField label="Opaque" checked={make.opaque} change={(is) => set({ opaque: is })} />
      </>
    );
  return (
    <>
      {length('Panel width', 'panelWidthM', make.panelWidthM)}
      {length('Panel height', 'panelHeightM', make.panelHeightM)}
      {length('Bar between', 'barM', make.barM)}
      <NumberField
        label="Open"
        unit="%"
        digits={1}
        value={make.density * 100}
        commit={(p) => set({ density: p / 100 })}
      />
      <div className="with-button">
        <NumberField label="Seed" value={make.seed} commit={(seed) => set({ seed })} />
        <button
          className="btn btn-sm btn-quiet"
          onClick={() => set({ seed: (make.seed * 7 + 13) % 999_983, turned: [] })}
        >
          Another
        </button>
      </div>
      <CheckField label="Open panels are glazed" checked={make.glazed} change={(is) => set({ glazed: is })} />
    </>
  );
}

const SAID = {
  sill: 'the sill gives way',
  head: 'the head gives way',
  ratio: 'the ratio gives way',
  spacing: 'the spacing gives way',
  height: 'the height gives way',
  'none fits': 'nothing fits',
  'too many': 'nothing is made, since one body would have too many openings',
} as const;

/** What a rule could not keep: on how many walls, and how far it had to go. */
export function GaveWayList({ optionId, rule }: { optionId: string | null; rule: OpeningRule }) {
  const openings = useOpenings(useView((v) => v.optionId));
  const byWhat = new Map<
    string,
    { walls: number; asked: number; least: number; most: number; what: keyof typeof SAID }
  >();
  for (const { body, optionId: of } of openings.all) {
    if (of !== optionId) continue;
    for (const { rule: by, what, asked, got } of openings.of(body)?.relaxed ?? []) {
      if (by !== rule.id) continue;
      const known = byWhat.get(what);
      byWhat.set(what, {
        what,
        asked,
        walls: (known?.walls ?? 0) + 1,
        least: Math.min(known?.least ?? got, got),
        most: Math.max(known?.most ?? got, got),
      });
    }
  }
  if (byWhat.size === 0) return null;
  const figure = (what: string, value: number) =>
    what === 'ratio' ? `${(value * 100).toFixed(0)} %` : `${value.toFixed(2)} m`;
  return (
    <ul className="gave-way" aria-label="What gave way">
      {[...byWhat.values()].map(({ what, walls, asked, least, most }) => (
        <li key={what}>
          On {walls} {walls === 1 ? 'wall' : 'walls'} {SAID[what]}
          {what !== 'none fits' &&
            what !== 'too many' &&
            `: ${most - least < 0.005 ? figure(what, least) : `${figure(what, least)} to ${figure(what, most)}`} instead of ${figure(what, asked)}`}
          .
        </li>
      ))}
    </ul>
  );
}
