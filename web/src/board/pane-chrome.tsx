import { type Scene, shadowAngles, type SunPosition, wrap360 } from '@dial-shade/core';
import {
  ArrowDownToLine,
  ArrowLeftToLine,
  ArrowRightToLine,
  ArrowUpToLine,
  Maximize,
  Pin as PinIcon,
  SquareDashedBottom,
} from 'lucide-react';
import { Link, useLocation } from 'react-router';
import { later } from '../app/later';
import { OptionLetter } from '../app/option-letter';
import { useStage } from '../app/use-stage';
import { longDate, shortDate } from '../almanac/wording';
import { formatClock } from '@dial-shade/core';
import { useDocument } from '../state/project-store';
import { activeStudyOf } from '../state/active-study';
import { type Pane, type Pin, pinPane, shownIn, usePanes } from '../state/panes-store';
import { useView } from '../state/view-store';
import { PaneKindSelect } from './pane-kind-select';
import type { ViewDirection } from './view-directions';
import type { PaneView } from './pane-view';
import { isSelected } from './scene-look';

const ToolHint = later(async () => (await import('./tool-hint')).ToolHint);

const VIEW_DIRECTIONS: { look: ViewDirection; name: string; icon: typeof Maximize }[] = [
  { look: 'fit', name: 'Fit everything (F)', icon: Maximize },
  { look: 'above', name: 'From above (A)', icon: SquareDashedBottom },
  { look: 'north', name: 'From drawing north (N)', icon: ArrowDownToLine },
  { look: 'east', name: 'From drawing east (E)', icon: ArrowLeftToLine },
  { look: 'south', name: 'From drawing south (S)', icon: ArrowUpToLine },
  { look: 'west', name: 'From drawing west (W)', icon: ArrowRightToLine },
];

/** What stands round the scene in its pane: title with pins, views, sun read-out, warnings. */
export function PaneChrome({
  view,
  pane,
  sun,
  scene,
  optionId,
  isFocused,
  isAlone,
  name,
}: {
  view: PaneView;
  pane: Pane;
  sun: SunPosition;
  scene: Scene;
  optionId: string;
  isFocused: boolean;
  isAlone: boolean;
  /** What a plan of a sheet is called; its tools show while it has the focus. */
  name?: string;
}) {
  if (name !== undefined && !isFocused) return <div className="pane-title plan">{name}</div>;
  return (
    <>
      {name === undefined ? (
        <PaneTitle pane={pane} isAlone={isAlone} />
      ) : (
        <div className="pane-title plan">{name}</div>
      )}
      <div className="pane-views" role="toolbar" aria-label="Views">
        <PaneKindSelect view={view} pane={pane} sun={sun} optionId={optionId} />
        {(pane.camera?.kind ?? 'orbit') === 'orbit' &&
          VIEW_DIRECTIONS.map(({ look, name, icon: Icon }) => (
            <button
              key={look}
              className="btn-bare"
              title={name}
              aria-label={name}
              onClick={() => view.lookFrom(look)}
            >
              <Icon size={16} strokeWidth={1.7} />
            </button>
          ))}
      </div>
      {name === undefined && (isFocused || pane.pin.moment) && <SunReadOut sun={sun} scene={scene} />}
      {isFocused && <Warnings />}
    </>
  );
}

/** Option and moment of a pane; where there are several, each can be pinned. */
function PaneTitle({ pane, isAlone }: { pane: Pane; isAlone: boolean }) {
  const project = useDocument();
  const board = usePanes((state) => state.board);
  const { optionId, date, minutes, activeStudy } = shownIn(pane, { board });
  const stage = useStage();
  const option = project.options.find((o) => o.id === optionId) ?? project.options[0]!;
  const pin = (what: keyof Pin, name: string) => (
    <button
      className="pin btn-bare"
      aria-pressed={pane.pin[what] !== null}
      aria-label={`Pin the ${name} of this pane`}
      title={
        pane.pin[what] !== null
          ? `This pane keeps its ${name}; click to let it go along`
          : `Pin the ${name}: this pane keeps it while others change`
      }
      onClick={() => pinPane(pane.id, what, pane.pin[what] === null)}
    >
      <PinIcon size={13} strokeWidth={1.8} />
    </button>
  );
  const canPin = !isAlone || Object.values(pane.pin).some((kept) => kept !== null);
  const study = stage === 'studies' && canPin ? activeStudyOf(project, activeStudy) : undefined;
  return (
    <div className="pane-title">
      <OptionLetter option={option} />
      <span className="name">{option.name}</span>
      {canPin && pin('optionId', 'option')}
      <span className="when">
        {isAlone ? longDate(date) : shortDate(date)}, {formatClock(minutes)}
      </span>
      {canPin && pin('moment', 'moment')}
      {study && (
        <span className="study">
          <span title={study.name}>{study.name}</span>
          {pin('activeStudy', 'study')}
        </span>
      )}
    </div>
  );
}

function SunReadOut({ sun, scene }: { sun: SunPosition; scene: Scene }) {
  const { site } = useDocument();
  const selection = useView((v) => v.selection);
  const owner = selection && scene.owners.find((o) => isSelected(o, selection));
  const bearing = selection?.wallBearingDeg ?? null;
  const azimuth = bearing === null ? null : wrap360(bearing - site.north.trueNorthDeg);
  const angles = azimuth === null ? null : shadowAngles(sun.altitudeDeg, sun.azimuthDeg, azimuth);
  const deg = (value: number) => `${value.toFixed(1).replace('-', '−')}°`;
  return (
    <div className="read-out" data-testid="read-out">
      <dl>
        <dt>Sun altitude</dt>
        <dd>{deg(sun.altitudeDeg)}</dd>
        <dt>Sun azimuth</dt>
        <dd>{deg(sun.azimuthDeg)}</dd>
        {owner && (
          <>
            <dt>Chosen</dt>
            <dd>{owner.name}</dd>
          </>
        )}
        {angles && (
          <>
            <dt>Facade azimuth</dt>
            <dd>{deg(azimuth!)}</dd>
            <dt title="Horizontal shadow angle: sun azimuth − facade azimuth">HSA</dt>
            <dd>{deg(angles.hsaDeg)}</dd>
            <dt title="Vertical shadow angle: tan VSA = tan altitude / cos HSA">VSA</dt>
            <dd>
              {sun.altitudeDeg <= 0
                ? 'sun is down'
                : angles.vsaDeg === null
                  ? 'sun is behind'
                  : deg(angles.vsaDeg)}
            </dd>
          </>
        )}
      </dl>
      {sun.altitudeDeg <= 0 && <div>The sun is below the horizon.</div>}
    </div>
  );
}

function Warnings() {
  const { site } = useDocument();
  const tool = useView((v) => v.tool);
  const stage = useStage();
  const { search } = useLocation();
  if (tool.kind !== 'select') return <ToolHint tool={tool} />;
  const open = [!site.place.confirmed && 'place', !site.north.confirmed && 'north']
    .filter(Boolean)
    .join(' and ');
  if (!open) return null;
  return (
    <div className="pane-warning" role="status">
      {open[0]!.toUpperCase() + open.slice(1)} not confirmed: this shade may be wrong.
      {stage !== 'site' && <Link to={{ pathname: 'site', search }}>Set</Link>}
    </div>
  );
}
