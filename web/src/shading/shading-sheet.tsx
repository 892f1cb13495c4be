import { glazedPlaces, TODAY, tooManyBoxes, tooManyDevices } from '@dial-shade/core';
import { useMemo } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { DeviceProblems } from './device-problems';
import { DeviceSection } from './device-section';
import { GlassSection } from './glass-section';
import { useGlass } from './glass-store';
import { MaskSection } from './mask-section';
import { RoomSection } from './room-section';
import { SchemesSection } from './schemes-section';
import { SizeSection } from './size-section';
import { SweepSection } from './sweep-section';
import { WorthSection } from './worth-section';
import { YearSection } from './year-section';

/** Devices that keep the sun off the glass: what stands, its sizes, and what it does. */
export function ShadingSheet() {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const { options } = project;
  const optionId = useView((view) => view.optionId);
  const deviceId = useGlass((state) => state.device);
  const setDevice = (id: string) => useGlass.setState({ device: id });
  const option = options.find(({ id }) => id === optionId) ?? options[0]!;
  const scheme = option.schemes.find(({ id }) => id === option.scheme);
  const { trueNorthDeg } = project.site.north;
  const boxes = useMemo(
    () => (scheme ? tooManyBoxes(scheme, glazedPlaces(project, option.id, meshes), trueNorthDeg) : null),
    [project, scheme, option.id, meshes, trueNorthDeg],
  );
  const device = scheme?.devices.find(({ id }) => id === deviceId) ?? scheme?.devices[0];
  return (
    <>
      <h1>Shading</h1>
      {option.id === TODAY ? (
        <p>Devices belong to a proposal. Choose an option above.</p>
      ) : (
        <>
          {boxes !== null && (
            <p className="wrong" role="alert">
              {tooManyDevices(boxes)}
            </p>
          )}
          <SchemesSection option={option} chosen={device?.id ?? null} choose={setDevice} />
          {scheme && <DeviceProblems option={option} />}
          {scheme && device && (
            <DeviceSection key={device.id} option={option} schemeId={scheme.id} device={device} />
          )}
          <GlassSection option={option} />
          <YearSection option={option} />
          <MaskSection option={option} />
          {scheme && device && (
            <SizeSection
              key={`${device.id}/${device.make.kind}`}
              option={option}
              schemeId={scheme.id}
              device={device}
            />
          )}
          {scheme && device && (
            <SweepSection
              key={`sweep of ${device.id}`}
              option={option}
              schemeId={scheme.id}
              device={device}
            />
          )}
          {scheme && <WorthSection option={option} schemeId={scheme.id} />}
          <RoomSection key={option.id} option={option} />
        </>
      )}
    </>
  );
}
