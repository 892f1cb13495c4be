import {
  add,
  change,
  newId,
  remove,
  resultScale,
  type Study,
  MAX_SUNS_PER_HOUR,
  measuresIn,
  STUDY_KINDS,
  type StudyValues,
} from '@dial-shade/core';
import { Play, Radio, Plus, Square, Trash2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { CheckField, ChoiceField, NumberField, Section, TextField } from '../app/fields';
import { useActiveStudy } from '../state/active-study';
import { currentProject, edit, useDocument } from '../state/project-store';
import type { Run } from '../state/api';
import { startRun, useResultState } from '../state/result-state';
import { keepRun, stopRun, useRuns } from '../state/run-store';
import { setView, useView } from '../state/view-store';
import { BeforeAfterSection } from './before-after-section';
import { CriteriaSection } from './criteria-section';
import { Estimate } from './estimate';
import { MapSection } from './map-section';
import { ProfileSection } from './profile-section';
import { PvSection } from './pv-section';
import { ResultButtons } from './result-actions';
import { ResultTable } from './result-table';
import { TakesSection } from './takes-section';
import { TargetSection } from './target-section';
import { ProbeSection } from './probe-section';
import { useLiveStudy } from './use-live-study';
import { WindowFields } from './window-fields';
import { WorstPlaces } from './worst-places';

/** Targets, the window of time, the run and what it found. */
export function StudiesSheet() {
  const { studies } = useDocument();
  const study = useActiveStudy();
  const list = useRef<HTMLUListElement>(null);
  // The list is short, so that what is done with a study is in sight; the one at hand is brought into it.
  useEffect(() => {
    const chosen = list.current?.querySelector<HTMLElement>('li.chosen');
    if (!chosen) return;
    const { offsetTop, offsetHeight, parentElement } = chosen;
    const { scrollTop, clientHeight } = parentElement!;
    if (offsetTop < scrollTop || offsetTop + offsetHeight > scrollTop + clientHeight)
      parentElement!.scrollTop = offsetTop - clientHeight / 2;
  }, [study?.id]);
  return (
    <>
      <h1>Studies</h1>
      {studies.length === 0 ? (
        <p>A study measures sun or sky light on targets. Draw a target, then add a study.</p>
      ) : (
        <ul className="objects short" ref={list}>
          {studies.map((s) => (
            <li key={s.id} className={s.id === study?.id ? 'chosen' : ''}>
              <button className="name" title={s.name} onClick={() => setView({ activeStudy: s.id })}>
                {s.name}
              </button>
              <button
                className="btn-bare"
                aria-label={`Remove ${s.name}`}
                onClick={() => edit(`remove ${s.name}`, remove('studies', s.id))}
              >
                <Trash2 size={14} />
              </button>
            </li>
          ))}
        </ul>
      )}
      <button className="btn btn-quiet btn-sm" onClick={addStudy}>
        <Plus size={14} /> Add a study
      </button>
      {study && <StudyFields study={study} />}
      <TargetSection study={study} />
      {study && <BeforeAfterSection key={study.id} study={study} />}
      {study && <MapOf study={study} />}
      {study && <TakesSection study={study} />}
      {study && <ProbeSection study={study} />}
      {study && <WorstPlaces studyId={study.id} />}
      {study && <CriteriaSection />}
    </>
  );
}

function addStudy(): void {
  const project = currentProject();
  const id = newId('study');
  const { year } = project.site;
  const study: Study = {
    id,
    name: `Study ${project.studies.length + 1}`,
    kind: 'sun-hours',
    targets: project.targets.slice(-1).map((target) => target.id),
    window: { from: `${year}-03-21`, to: `${year}-03-21`, startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 10,
    criterion: { atLeast: STUDY_KINDS['sun-hours'].atLeast, share: 0.5, source: '' },
    scale: null,
  };
  if (!edit(`add ${study.name}`, add('studies', study))) setView({ activeStudy: id });
}

function StudyFields({ study }: { study: Study }) {
  const optionId = useView((view) => view.optionId);
  const { site } = useDocument();
  const { search } = useLocation();
  const standing = useResultState(study.id, optionId);
  const kind = STUDY_KINDS[study.kind];
  const set = (name: string, fields: Partial<Study>) =>
    edit(name, change('studies', study.id, fields), { quiet: true });
  const { active, changes, failed, result } = standing;
  // Stays open while a run takes the place of what the page had.
  const [isTableOpen, setTableOpen] = useState(false);
  useLiveStudy(study.id, optionId);
  return (
    <Section title={study.name} name="study">
      <ChoiceField
        label="Measures"
        wide
        value={study.kind}
        choices={Object.values(STUDY_KINDS).map(({ kind: value, name }) => ({ value, name }))}
        commit={(next) =>
          set(`measure ${STUDY_KINDS[next].name.toLowerCase()}`, {
            kind: next,
            criterion: { ...study.criterion, atLeast: STUDY_KINDS[next].atLeast },
            scale: null,
          })
        }
      />
      <p className="visually-quiet mb-1" title={kind.measures[0].definition}>
        {kind.purpose}
      </p>
      <RunLine study={study} standing={standing} openTable={() => setTableOpen(true)} />
      <Estimate study={study} />
      {kind.needsWeather && !site.weather && (
        <p className="visually-quiet">
          <Link to={{ pathname: '../climate', search }} relative="path">
            Bring a weather year in
          </Link>{' '}
          on the Climate stage.
        </p>
      )}
      {result?.summary.kind === study.kind && <ShownField study={study} values={result.values} />}
      {changes.length > 0 && !active && <OutOfDate changes={changes} />}
      {result && isTableOpen && (
        <ResultTable result={result} atLeast={study.criterion.atLeast} onHide={() => setTableOpen(false)} />
      )}
      {failed && <p style={{ color: 'var(--alarm)' }}>{failed.message}</p>}
      <div className="mt-3">
        <AskedFields study={study} />
      </div>
    </Section>
  );
}

/** Why a result is out of date. */
function OutOfDate({ changes }: { changes: readonly string[] }) {
  return (
    <div className="stale" data-testid="stale">
      <strong>Out of date</strong>
      <ul>
        {changes.slice(0, 4).map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
        {changes.length > 4 && <li>and {changes.length - 4} more changes</li>}
      </ul>
    </div>
  );
}

/** What can be done about the run of a study: begin it, follow it, stop it, and take its result. */
function RunLine({
  study,
  standing: { active, shown, changes, result },
  openTable,
}: {
  study: Study;
  standing: ReturnType<typeof useResultState>;
  openTable: () => void;
}) {
  const optionId = useView((view) => view.optionId);
  const name = STUDY_KINDS[study.kind].name.toLowerCase();
  if (active)
    return (
      <>
        <div
          className="progress-line"
          role="progressbar"
          aria-label="Progress of the run"
          aria-valuenow={Math.round((100 * active.sensorsDone) / Math.max(1, active.sensors))}
        >
          <div style={{ width: `${(100 * active.sensorsDone) / Math.max(1, active.sensors)}%` }} />
        </div>
        <div className="d-flex align-items-center gap-2">
          <button className="btn btn-quiet" onClick={() => void stopRun(active.id)}>
            <Square size={13} /> Stop
          </button>
          <span className="visually-quiet">
            {active.status === 'queued'
              ? 'Waiting for a worker'
              : `${active.sensorsDone.toLocaleString('en')} of ${active.sensors.toLocaleString('en')} points`}
            <TimeLeft run={active} />
          </span>
        </div>
      </>
    );
  return (
    <div className="d-flex flex-wrap align-items-center gap-2">
      <button className="btn btn-sunlit" onClick={() => void startRun(study.id, optionId)}>
        <Play size={13} /> {shown ? (changes.length ? 'Run again' : 'Run') : `Run ${name}`}
      </button>
      <LiveButton studyId={study.id} optionId={optionId} />
      {result && <ResultButtons result={result} openTable={openTable} />}
      {shown?.status === 'done' && (
        <span className="visually-quiet" data-testid="how-worked">
          {shown.message ?? (shown.rays === 0 && 'Weighed again; nothing was traced.')}
        </span>
      )}
      {shown?.status === 'stopped' && (
        <span className="visually-quiet">
          Stopped at {shown.sensorsDone.toLocaleString('en')} of {shown.sensors.toLocaleString('en')}
        </span>
      )}
    </div>
  );
}

/** What a study asks for. */
function AskedFields({ study }: { study: Study }) {
  const kind = STUDY_KINDS[study.kind];
  const set = (name: string, fields: Partial<Study>) =>
    edit(name, change('studies', study.id, fields), { quiet: true });
  return (
    <>
      {kind.hasWindow && <WindowFields study={study} />}
      {kind.needsWeather && <HourFields study={study} />}
      <div className="pair">
        {kind.hasStep && (
          <NumberField
            label="Step"
            unit="min"
            value={study.stepMinutes}
            commit={(stepMinutes) => set('change the step', { stepMinutes })}
          />
        )}
        <NumberField
          label="At least"
          unit={kind.measures[0].unit}
          value={study.criterion.atLeast}
          commit={(atLeast) => set('change the threshold', { criterion: { ...study.criterion, atLeast } })}
        />
        <NumberField
          label="On a share"
          unit="%"
          value={study.criterion.share * 100}
          commit={(percent) =>
            set('change the share', { criterion: { ...study.criterion, share: percent / 100 } })
          }
        />
      </div>
      <TextField label="Name" value={study.name} commit={(name) => set('rename a study', { name })} />
      <TextField
        label="Source"
        value={study.criterion.source}
        placeholder="Where it is asked for"
        commit={(source) => set('note the source', { criterion: { ...study.criterion, source } })}
      />
    </>
  );
}

/** How closely the hours of the weather are looked at. */
function HourFields({ study }: { study: Study }) {
  const set = (name: string, fields: Partial<Study>) =>
    edit(name, change('studies', study.id, fields), { quiet: true });
  return (
    <>
      <ChoiceField
        label="Suns an hour"
        value={String(study.sunsPerHour ?? 1)}
        choices={Array.from({ length: MAX_SUNS_PER_HOUR }, (_, i) => ({
          value: String(i + 1),
          name: i === 0 ? '1, in its middle' : String(i + 1),
        }))}
        commit={(count) => set('change the suns of an hour', { sunsPerHour: Number(count) })}
      />
      {study.kind === 'insolation' && (
        <CheckField
          label="Find each point’s strongest hour"
          checked={study.peakHour ?? false}
          change={(peakHour) =>
            set(peakHour ? 'look for the strongest hour' : 'leave the strongest hour', { peakHour })
          }
        />
      )}
    </>
  );
}

/** How its result lies on the scene, where there is one. */
function MapOf({ study }: { study: Study }) {
  const optionId = useView((view) => view.optionId);
  const { result } = useResultState(study.id, optionId);
  return (
    result && (
      <>
        <MapSection study={study} max={resultScale(result, study.scale).max} />
        <ProfileSection key={study.id} study={study} result={result} />
        {result.summary.kind === 'insolation' && <PvSection key={result.summary.option} result={result} />}
      </>
    )
  );
}

/** Which of its measures is looked at. */
function ShownField({ study, values }: { study: Study; values: StudyValues }) {
  const shown = useView((view) => view.shownMeasure[study.id]);
  const choices = measuresIn(study.kind, values).filter(({ reads }) => !reads);
  if (choices.length < 2) return null;
  return (
    <ChoiceField
      label="Shows"
      wide
      value={choices.some(({ key }) => key === shown) ? shown! : choices[0]!.key}
      choices={choices.map(({ key, label, unit }) => ({ value: key, name: `${label}, ${unit}` }))}
      commit={(key) =>
        setView(({ shownMeasure }) => ({ shownMeasure: { ...shownMeasure, [study.id]: key } }))
      }
    />
  );
}

/** Lets a small study follow every change; when it is let go, its result is kept as a run. */
function LiveButton({ studyId, optionId }: { studyId: string; optionId: string }) {
  const isLive = useView((view) => view.live);
  const toggle = () => {
    setView({ live: !isLive });
    if (isLive) void keepRun(studyId, optionId);
  };
  return (
    <button
      className="btn btn-quiet"
      aria-pressed={isLive}
      title="Follow every change: coarse while something is dragged, whole when it rests"
      onClick={toggle}
    >
      <Radio size={13} /> Live
    </button>
  );
}

/** Reckons the time left from what has been done since the run was first seen at work; told anew with every progress. */
function TimeLeft({ run }: { run: Run }) {
  const raysPerSecond = useRuns((state) => state.raysPerSecond);
  if (run.status !== 'running' || run.sensorsDone === 0 || !raysPerSecond) return null;
  const left = (run.rays * (1 - run.sensorsDone / run.sensors)) / raysPerSecond;
  return <>, {left < 1.5 ? 'a second' : `about ${Math.ceil(left)} s`} left</>;
}
