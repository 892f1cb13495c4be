import { useDocument } from '../state/project-store';
import { DomeSection } from './dome-section';
import { HourSetsSection } from './hour-sets-section';
import { MonthsSection } from './months-section';
import { RoseSection } from './rose-section';
import { ToneField } from './tone-field';
import { WeatherSection } from './weather-section';

/** The weather year of the site, and what it offers. */
export function ClimateSheet() {
  const { weather } = useDocument().site;
  return (
    <>
      <h1>Climate</h1>
      <WeatherSection />
      {weather && (
        <>
          <ToneField />
          <MonthsSection />
          <HourSetsSection />
          <DomeSection />
          <RoseSection />
        </>
      )}
    </>
  );
}
