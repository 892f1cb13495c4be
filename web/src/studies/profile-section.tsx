import {
  profileAlong,
  profileCsv,
  type ProfilePoint,
  readMeasure,
  resultScale,
  type Scale,
  shownMeasure,
  type Study,
  type StudyResult,
} from '@dial-shade/core';
import { line as lineOf, scaleLinear } from 'd3';
import { Spline, X } from 'lucide-react';
import { type PointerEvent, useEffect, useMemo, useRef } from 'react';
import { Section } from '../app/fields';
import { ChartButtons } from '../climate/chart-buttons';
import { useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { asShown } from './as-shown';
import { useProfile } from './profile-store';

const W = 260;
const H = 130;
const LEFT = 30;
const RIGHT = 8;
const TOP = 14;
const BOTTOM = 18;

/** A result along a line that is drawn over it. */
export function ProfileSection({ study, result }: { study: Study; result: StudyResult }) {
  const { site } = useDocument();
  const isDrawing = useView((view) => view.tool.kind === 'profile');
  const shown = useView((view) => view.shownMeasure[study.id]);
  const { line } = useProfile();
  const svg = useRef<SVGSVGElement>(null);
  const looked = useMemo(() => asShown(result, { measure: shown, before: null }), [result, shown]);
  const points = useMemo(
    () => (line ? profileAlong(looked, site.ground, line) : []),
    [looked, site.ground, line],
  );
  useEffect(() => () => useProfile.setState({ draft: null, atM: null }), []);
  return (
    <Section title="Profile" name="profile">
      <div className="d-flex gap-1 mb-1">
        <button
          className="btn btn-quiet btn-sm"
          aria-pressed={isDrawing}
          onClick={() => setView({ tool: isDrawing ? { kind: 'select' } : { kind: 'profile' } })}
        >
          <Spline size={13} /> {line ? 'Draw another line' : 'Draw a line'}
        </button>
        {line && (
          <button
            className="btn btn-quiet btn-sm"
            onClick={() => useProfile.setState({ line: null, atM: null })}
          >
            <X size={13} /> Take it away
          </button>
        )}
      </div>
      {!line && <p className="visually-quiet m-0">Two clicks on the result: its values along the line.</p>}
      {line && points.length === 0 && (
        <p className="visually-quiet m-0">The line lies on nothing that this study measures.</p>
      )}
      {points.length > 0 && (
        <>
          <ProfileChart
            points={points}
            result={looked}
            scale={resultScale(looked, study.scale)}
            atLeast={shown === undefined ? study.criterion.atLeast : NaN}
            svg={svg}
          />
          <ChartButtons svg={svg} name="profile" csv={() => profileCsv(looked, points)} />
        </>
      )}
    </Section>
  );
}

function ProfileChart({
  points,
  result,
  scale,
  atLeast,
  svg,
}: {
  points: readonly ProfilePoint[];
  result: StudyResult;
  scale: Scale;
  atLeast: number;
  svg: React.Ref<SVGSVGElement>;
}) {
  const atM = useProfile((state) => state.atM);
  const measure = shownMeasure(result);
  const length = points.at(-1)!.distanceM;
  const x = scaleLinear([0, length], [LEFT, W - RIGHT]);
  const y = scaleLinear([scale.min, scale.max], [H - BOTTOM, TOP]).clamp(true);
  const path = lineOf<ProfilePoint>()
    .defined(({ value }) => !Number.isNaN(value))
    .x(({ distanceM }) => x(distanceM))
    .y(({ value }) => y(value));
  const near = atM === null ? null : points.reduce((best, p) => (off(p, atM) < off(best, atM) ? p : best));
  const follow = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = x.invert(((event.clientX - box.left) / box.width) * W);
    useProfile.setState({ atM: Math.max(0, Math.min(length, at)) });
  };
  return (
    <>
      <svg
        ref={svg}
        className="climate-chart"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={`${measure.label} along the line`}
        onPointerMove={follow}
        onPointerLeave={() => useProfile.setState({ atM: null })}
      >
        {y.ticks(4).map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={W - RIGHT} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" strokeWidth={0.5} />
            <text x={LEFT - 3} y={y(tick) + 2.6} textAnchor="end" fontSize={7.5} fill="var(--ink-soft)">
              {tick}
            </text>
          </g>
        ))}
        <text x={2} y={8} fontSize={7} fill="var(--ink-soft)">
          {measure.label}, {measure.unit}
        </text>
        {x.ticks(5).map((tick) => (
          <text
            key={tick}
            x={x(tick)}
            y={H - 6}
            textAnchor={tick === 0 ? 'start' : 'middle'}
            fontSize={7.5}
            fill="var(--ink-soft)"
          >
            {tick} m
          </text>
        ))}
        {atLeast >= scale.min && atLeast <= scale.max && (
          <line
            x1={LEFT}
            x2={W - RIGHT}
            y1={y(atLeast)}
            y2={y(atLeast)}
            stroke="var(--ink)"
            strokeDasharray="4 3"
            strokeWidth={0.8}
          />
        )}
        <path d={path(points) ?? ''} fill="none" stroke="var(--shade)" strokeWidth={1.6} />
        {near && !Number.isNaN(near.value) && (
          <circle
            cx={x(near.distanceM)}
            cy={y(near.value)}
            r={3}
            fill="var(--sun)"
            stroke="var(--ink)"
            strokeWidth={0.7}
          />
        )}
      </svg>
      <p className="visually-quiet mb-1" data-testid="profile-said">
        {near
          ? `${near.distanceM.toFixed(1)} m: ${readMeasure(measure, near.value)} ${Number.isNaN(near.value) ? '' : measure.unit}`
          : `${length.toFixed(1)} m long; ${extremes(points, (value) => readMeasure(measure, value))} ${measure.unit}`}
      </p>
    </>
  );
}

const off = ({ distanceM }: ProfilePoint, atM: number) => Math.abs(distanceM - atM);

function extremes(points: readonly ProfilePoint[], read: (value: number) => string): string {
  const values = points.map(({ value }) => value).filter((value) => !Number.isNaN(value));
  return values.length === 0
    ? 'nothing is measured on it, in'
    : `from ${read(Math.min(...values))} to ${read(Math.max(...values))}`;
}
