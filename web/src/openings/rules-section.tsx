import {
  detachRule,
  type FittedOpening,
  formatArea,
  newId,
  type OpeningRule,
  type OpeningsOf,
  outlineArea,
  type RuleMake,
  rulesFor,
} from '@dial-shade/core';
import { Plus, Scissors, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ChoiceField, LengthField, Section, TextField } from '../app/fields';
import { IconButton, ThingRow } from '../app/objects';
import { edit, useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { GaveWayList, MakeFields } from './rule-fields';
import { changeRules } from './rules-edit';
import { ScopeFields, WallFields } from './scope-fields';
import { defaultGlazing } from './use-facade';
import { openingsNow, useOpenings } from './use-openings';

const MAKES: Record<RuleMake['by'], { name: string; plain: RuleMake }> = {
  ratio: {
    name: 'Window-to-wall ratio',
    plain: { by: 'ratio', ratio: 0.3, sillM: 0.9, headM: 2.4, jambM: 0.3, bayM: 3 },
  },
  size: {
    name: 'Lights of one size',
    plain: { by: 'size', widthM: 1.2, heightM: 1.5, spacingM: 2.4, sillM: 0.9, jambM: 0.4 },
  },
  door: {
    name: 'Doors at the ground',
    plain: { by: 'door', widthM: 1, heightM: 2.1, jambM: 0.3, opaque: true },
  },
  panels: {
    name: 'Panels by chance',
    plain: {
      by: 'panels',
      panelWidthM: 0.6,
      panelHeightM: 0.6,
      barM: 0.08,
      density: 0.4,
      seed: 1,
      glazed: true,
      turned: [],
    },
  },
};

/** Rules that make openings in an option, or (optionId null) in the neighbours. */
export function RulesSection({ optionId, title }: { optionId: string | null; title: string }) {
  const project = useDocument();
  const shown = useView((v) => v.optionId);
  const rules = rulesFor(project, optionId);
  const [chosenId, setChosen] = useState<string | null>(null);
  const chosen = rules.find((r) => r.id === chosenId) ?? (optionId === shown ? rules[0] : undefined);
  const made = madeByRule(useOpenings(shown), optionId);
  const addRule = () => {
    const id = newId('rule');
    const rule: OpeningRule = {
      id,
      name: `Rule ${rules.length + 1}`,
      scope: { owners: null, sectors: null, storeys: null, walls: null, except: [] },
      make: MAKES.ratio.plain,
      glazing: defaultGlazing(),
      revealM: 0.1,
      openable: true,
    };
    if (
      !edit(
        'add a rule',
        changeRules(optionId, (list) => [...list, rule]),
      )
    )
      setChosen(id);
  };
  return (
    <Section
      title={title}
      name="rules"
      aside={<IconButton icon={Plus} label={`Add a rule: ${title}`} onClick={addRule} />}
    >
      {rules.length === 0 && (
        <p className="visually-quiet">
          No rules yet. A rule puts windows into every wall that it is for.{' '}
          <button className="btn btn-sm btn-sunlit" onClick={addRule}>
            Add a rule
          </button>
        </p>
      )}
      <ul className="objects">
        {rules.map((rule) => {
          const openings = made.get(rule.id) ?? [];
          return (
            <ThingRow
              key={rule.id}
              name={rule.name}
              figure={`${openings.length} openings`}
              chosen={rule.id === chosen?.id}
              onChoose={() => setChosen(rule.id)}
            >
              <IconButton
                icon={Scissors}
                label={`Break ${rule.name} into single openings`}
                disabled={openings.length === 0}
                onClick={() =>
                  edit(`break ${rule.name}`, (now) => detachRule(now, openingsNow(now), optionId, rule.id))
                }
              />
              <IconButton
                icon={Trash2}
                label={`Remove ${rule.name}`}
                onClick={() =>
                  edit(
                    `remove ${rule.name}`,
                    changeRules(optionId, (list) => list.filter((r) => r.id !== rule.id)),
                  )
                }
              />
            </ThingRow>
          );
        })}
      </ul>
      {chosen && (
        <RuleFields key={chosen.id} optionId={optionId} rule={chosen} openings={made.get(chosen.id) ?? []} />
      )}
    </Section>
  );
}

/** What each rule makes in the bodies that it is for. */
function madeByRule(openings: OpeningsOf, optionId: string | null): Map<string, FittedOpening[]> {
  const made = new Map<string, FittedOpening[]>();
  for (const { body, optionId: of } of openings.all) {
    if (of !== optionId) continue;
    for (const list of openings.of(body)?.byFace.values() ?? [])
      for (const opening of list)
        if (opening.rule) made.set(opening.rule, [...(made.get(opening.rule) ?? []), opening]);
  }
  return made;
}

function RuleFields({
  optionId,
  rule,
  openings,
}: {
  optionId: string | null;
  rule: OpeningRule;
  openings: FittedOpening[];
}) {
  const project = useDocument();
  const set = (name: string, fields: Partial<OpeningRule>) =>
    edit(
      `${name} ${rule.name}`,
      changeRules(optionId, (list) => list.map((r) => (r.id === rule.id ? { ...r, ...fields } : r))),
      { quiet: true },
    );
  const make = (fields: Partial<RuleMake>) =>
    set('change', { make: { ...rule.make, ...fields } as RuleMake });
  const { scope } = rule;
  return (
    <div className="rule">
      <TextField label="Name" value={rule.name} commit={(name) => set('rename', { name })} />
      <WallFields scope={scope} set={(next) => set('walls of', { scope: next })} />
      <ScopeFields optionId={optionId} scope={scope} set={(next) => set('walls of', { scope: next })} />
      <ChoiceField
        label="Makes"
        value={rule.make.by}
        choices={Object.entries(MAKES).map(([value, { name }]) => ({ value: value as RuleMake['by'], name }))}
        commit={(by) => void set('change', { make: MAKES[by].plain })}
      />
      <MakeFields make={rule.make} set={make} />
      <ChoiceField
        label="Pane"
        value={rule.glazing}
        choices={project.glazings.map((g) => ({ value: g.id, name: g.name }))}
        commit={(glazing) => void set('pane of', { glazing })}
      />
      <LengthField label="Reveal" value={rule.revealM} commit={(revealM) => set('reveal of', { revealM })} />
      <dl className="facts">
        <dt>Makes</dt>
        <dd>
          {openings.length} openings,{' '}
          {formatArea(
            openings.reduce((sum, o) => sum + outlineArea(o.outline), 0),
            project.units,
          )}
        </dd>
      </dl>
      <GaveWayList optionId={optionId} rule={rule} />
    </div>
  );
}
