import { clockAt, formatClock, type MomentSet, momentsOf, type Option, type Project } from '@dial-shade/core';
import { useState } from 'react';
import { shortDate } from '../almanac/wording';
import { ChoiceField } from '../app/fields';
import { useDocument } from '../state/project-store';
import { useAside } from '../workers/use-aside';

const percent = (share: number) => `${(100 * share).toFixed(0)} %`;

/** The instants of a set; none where it has none in this year. */
function instantsOf(set: MomentSet, site: Project['site']): number[] {
  try {
    return momentsOf(set, site).map(({ atMs }) => atMs);
  } catch {
    return [];
  }
}

/** The share of the glass of a window that is in sun over a set of moments, exact: on average and at its most. */
export function OverSet({ option, opening }: { option: Option; opening: string }) {
  const { momentSets, site } = useDocument();
  const [chosen, setChosen] = useState('');
  const set = momentSets.find(({ id }) => id === chosen);
  const moments = set ? instantsOf(set, site) : [];
  const rows = useAside(set ? (worker) => worker.glassSun(option.id, moments, opening) : null, [
    option.id,
    opening,
    set,
  ]);
  if (momentSets.length === 0) return null;
  const seen = (rows ?? []).flatMap(([row], i) =>
    row && row.areaM2 > 0 && i < moments.length
      ? [{ atMs: moments[i]!, share: row.sunlitM2 / row.areaM2, bare: row.bareM2 / row.areaM2 }]
      : [],
  );
  const mean = (of: 'share' | 'bare') => seen.reduce((sum, one) => sum + one[of], 0) / seen.length;
  const [first] = seen;
  const most = first && seen.reduce((best, one) => (one.share > best.share ? one : best), first);
  const when = most && clockAt(most.atMs, site.place.zone);
  return (
    <>
      <ChoiceField
        label="Over"
        wide
        value={set ? chosen : ''}
        choices={[
          { value: '', name: 'the day below' },
          ...momentSets.map(({ id, name }) => ({ value: id, name: `the moments of “${name}”` })),
        ]}
        commit={setChosen}
      />
      {set && most && when && (
        <p className="mb-1" data-testid="over-set">
          <strong>{percent(mean('share'))}</strong> of its glass in sun on average of {seen.length} moments,{' '}
          {percent(mean('bare'))} without devices; {percent(most.share)} at the most, on{' '}
          {shortDate(when.date)} at {formatClock(when.minutes)}.
        </p>
      )}
    </>
  );
}
