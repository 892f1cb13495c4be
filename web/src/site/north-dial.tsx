import { editNorth, RAD, wrap180 } from '@dial-shade/core';
import { type PointerEvent, useRef } from 'react';
import { edit, endGesture } from '../state/project-store';

const SIZE = 150;
const R = 56;

/** True north against drawing north: drag the marigold hand. */
export function NorthDial({ trueNorthDeg }: { trueNorthDeg: number }) {
  const dragging = useRef(false);
  const at = (deg: number, r: number): [number, number] => [
    SIZE / 2 + r * Math.sin(deg * RAD),
    SIZE / 2 - r * Math.cos(deg * RAD),
  ];
  const turn = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const x = event.clientX - box.left - box.width / 2;
    const y = event.clientY - box.top - box.height / 2;
    const deg = Math.round(wrap180(Math.atan2(x, -y) / RAD) * 2) / 2;
    edit('turn true north', editNorth({ trueNorthDeg: deg }), { gestureKey: 'north' });
  };
  const [hx, hy] = at(trueNorthDeg, R);
  const [tx, ty] = at(trueNorthDeg, R + 12);
  const endDrag = () => {
    dragging.current = false;
    endGesture();
  };
  return (
    <svg
      className="north-dial"
      width={SIZE}
      height={SIZE}
      role="slider"
      aria-label="True north, degrees clockwise from drawing north"
      aria-valuenow={trueNorthDeg}
      aria-valuemin={-180}
      aria-valuemax={180}
      tabIndex={0}
      onKeyDown={(event) => {
        const step = event.key === 'ArrowRight' ? 0.5 : event.key === 'ArrowLeft' ? -0.5 : 0;
        if (!step) return;
        event.stopPropagation();
        event.preventDefault();
        edit(
          'turn true north',
          editNorth({ trueNorthDeg: wrap180(trueNorthDeg + step * (event.shiftKey ? 10 : 1)) }),
        );
      }}
      onPointerDown={(event) => {
        dragging.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
        turn(event);
      }}
      onPointerMove={(event) => dragging.current && turn(event)}
      onPointerUp={endDrag}
      onPointerCancel={endDrag}
    >
      <circle cx={SIZE / 2} cy={SIZE / 2} r={R} fill="var(--raised)" stroke="var(--ink-soft)" />
      {Array.from({ length: 36 }, (_, i) => {
        const [x1, y1] = at(i * 10, R);
        const [x2, y2] = at(i * 10, R - (i % 9 === 0 ? 8 : 4));
        return <line key={i} x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--ink-soft)" />;
      })}
      <line
        x1={SIZE / 2}
        y1={SIZE / 2 + R - 14}
        x2={SIZE / 2}
        y2={SIZE / 2 - R + 12}
        stroke="var(--ink-soft)"
        strokeDasharray="3 3"
      />
      <text x={SIZE / 2} y={SIZE / 2 + R - 2 + 12} textAnchor="middle" fontSize={10} fill="var(--ink-soft)">
        drawing
      </text>
      <line x1={SIZE / 2} y1={SIZE / 2} x2={hx} y2={hy} stroke="var(--sun)" strokeWidth={3} />
      <circle className="handle" cx={hx} cy={hy} r={7} fill="var(--sun)" stroke="var(--ink)" />
      <text x={tx} y={ty + 4} textAnchor="middle" fontSize={12} fontWeight={700} fill="var(--ink)">
        N
      </text>
    </svg>
  );
}
