import { type AltitudeTable, dayOfYear } from '@dial-shade/core';
import { type PointerEvent, useEffect, useRef } from 'react';
import { setView, useView } from '../state/view-store';
import { almanacTone } from '../theme/palette';
import { longDate } from './wording';

/** The day of the moment as a bar from midnight to midnight, toned by the sun's altitude; dragged, it moves the clock. */
export function DayStrip({ table }: { table: AltitudeTable | null }) {
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const canvas = useRef<HTMLCanvasElement>(null);

  useEffect(() => {
    const context = canvas.current!.getContext('2d')!;
    if (!table) return;
    canvas.current!.width = table.steps;
    const row = Math.min(table.days - 1, dayOfYear(date)) * table.steps;
    for (let step = 0; step < table.steps; step++) {
      const [r, g, b] = almanacTone(table.altitudeDeg[row + step]!);
      context.fillStyle = `rgb(${r}, ${g}, ${b})`;
      context.fillRect(step, 0, 1, 1);
    }
  }, [table, date]);

  const drag = (event: PointerEvent<HTMLDivElement>) => {
    if (event.buttons === 0) return;
    const box = event.currentTarget.getBoundingClientRect();
    const share = Math.max(0, Math.min(1, (event.clientX - box.left) / box.width));
    setView({ minutes: Math.min(1435, Math.round((share * 1440) / 5) * 5), play: null });
  };
  return (
    <div
      className="day-strip"
      data-testid="day-strip"
      title={`${longDate(date)}, drag to move the clock`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        drag(event);
      }}
      onPointerMove={drag}
    >
      <canvas ref={canvas} height={1} />
      {[6, 12, 18].map((hour) => (
        <span key={hour} className="hour" style={{ left: `${(hour / 24) * 100}%` }}>
          {hour}
        </span>
      ))}
      <span className="now" style={{ left: `${(minutes / 1440) * 100}%` }} />
    </div>
  );
}
