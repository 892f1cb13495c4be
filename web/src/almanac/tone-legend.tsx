import type { WeatherTone } from './use-weather-tone';

/** What the tones of the almanac stand for. */
export function ToneLegend({ tone: { name, unit, min, max, ramp } }: { tone: WeatherTone }) {
  const stops = Array.from({ length: 9 }, (_, i) => ramp(i / 8)).join(', ');
  const figure = (value: number) =>
    (Math.abs(value) < 20 ? value.toFixed(1) : value.toFixed(0)).replace('-', '−');
  return (
    <div className="tone-legend" data-testid="tone-legend">
      {figure(min)}
      <i style={{ background: `linear-gradient(to right, ${stops})` }} />
      {figure(max)} {unit} <span>{name}</span>
    </div>
  );
}
