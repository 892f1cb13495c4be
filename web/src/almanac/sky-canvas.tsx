import { type AltitudeTable, IN_SUN } from '@dial-shade/core';
import { useEffect, useRef } from 'react';
import { almanacTone, OTHER_OBSTRUCTION, OBSTRUCTION_COLOURS } from '../theme/palette';
import { rgb } from 'd3';
import type { ChartScale } from './chart-scale';
import { MARGIN } from './chart-scale';
import type { ShownYear } from '../studies/use-probe-year';
import type { WeatherTone } from './use-weather-tone';

/** The year's sky: night dark, day toned by the sun's altitude; over it, where a probe has no sun, hatched by whose shade. */
export function SkyCanvas({
  scale,
  table,
  probe,
  weather,
}: {
  scale: ChartScale;
  table: AltitudeTable | null;
  probe: ShownYear | null;
  /** In place of the sun's altitude: the tone of a day and hour, or null where there is no value. */
  weather: WeatherTone | null;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current!;
    const context = canvas.getContext('2d')!;
    const w = Math.max(1, Math.floor(scale.width - MARGIN.left - MARGIN.right));
    const h = Math.max(1, Math.floor(scale.height - MARGIN.top - MARGIN.bottom));
    canvas.width = w;
    canvas.height = h;
    if (!table) return;
    const image = context.createImageData(w, h);
    const obstructions = new Map(
      (probe?.obstructions ?? []).map((obstruction, i) => [
        obstruction.owner,
        rgb(OBSTRUCTION_COLOURS[i] ?? OTHER_OBSTRUCTION),
      ]),
    );
    const other = rgb(OTHER_OBSTRUCTION);
    for (let py = 0; py < h; py++) {
      for (let px = 0; px < w; px++) {
        const day = Math.min(table.days - 1, Math.floor((px / w) * table.days));
        const step = Math.min(table.steps - 1, Math.floor((py / h) * table.steps));
        let [r, g, b] =
          weather?.toneAt(day, Math.min(23, Math.floor((py / h) * 24))) ??
          almanacTone(table.altitudeDeg[day * table.steps + step]!);
        if (probe) {
          const { year } = probe;
          const cell = day * year.steps + Math.min(year.steps - 1, Math.floor((py / h) * year.steps));
          const state = year.state[cell]!;
          if (state >= 0) {
            const tone = obstructions.get(state) ?? other;
            const line = (px + py) % 5 < 3;
            const share = line ? 0.92 : 0.62;
            r += (tone.r - r) * share;
            g += (tone.g - g) * share;
            b += (tone.b - b) * share;
          } else if (state === IN_SUN) {
            // Of a surface, paler where less of it is in sun.
            const pale = 1 - (year.share?.[cell] ?? 1);
            [r, g, b] = [250, 214 + 22 * pale, 110 + 100 * pale];
          }
        }
        const at = (py * w + px) * 4;
        image.data[at] = r;
        image.data[at + 1] = g;
        image.data[at + 2] = b;
        image.data[at + 3] = 255;
      }
    }
    context.putImageData(image, 0, 0);
  }, [scale, table, probe, weather]);
  return <canvas ref={ref} style={{ left: MARGIN.left, top: MARGIN.top }} aria-hidden />;
}
