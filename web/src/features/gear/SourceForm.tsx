import { inputsOf, sourceInWords } from '@rackle/core/controls';
import type { NameStyle } from '@rackle/core/midi';
import {
  RoleSource,
  controlKey,
  withSource,
  withoutSource,
  type ControlSource,
  type GearList,
} from '@rackle/core/show';
import type { Control } from 'react-hook-form';
import type { ControlState } from '../../protocol';
import { useEdit } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { ChoiceField, Field, NumberFormField } from '../../ui/form/fields';
import { useSavedForm } from '../../ui/form/useSavedForm';
import { NumberField } from '../../ui/NumberField';
import { CurveView } from './CurveView';
import { ProgramAdvice } from './ProgramAdvice';

/** What a change of a field is called in the history. */
const CHANGED: Partial<Record<keyof RoleSource, string>> = {
  source: 'change where a control comes from',
  button: 'change how a switch acts',
  guardMs: 'change the guard time',
  lowest: 'change the travel that counts',
  highest: 'change the travel that counts',
  reversed: 'turn a control round',
  curve: 'change the curve',
  pickUp: 'change the pick-up',
  passOn: 'change whether it is passed on',
};
/** What is hit rather than moved. */
const HIT: ReadonlySet<ControlSource['kind']> = new Set(['note', 'program', 'count', 'computerKey']);

interface Props {
  source: RoleSource;
  gear: GearList;
  state: ControlState | null;
  style: NameStyle;
  /** The role moves a value; else it is pressed. */
  isValue: boolean;
  onLearn: () => void;
}

/** One control that plays a role: where it comes from, and how it moves what it plays. */
export function SourceForm({ source, gear, state, style, isValue, onLearn }: Props) {
  const edit = useEdit();
  const { control } = useSavedForm(RoleSource, source, (next, changed) => {
    const label = CHANGED[changed] ?? 'change a control';
    edit({ label, mergeKey: `${label} ${controlKey(source)}`, gearLists: [withSource(gear, source, next)] });
  });
  const { kind } = source.source;
  const isMoved = isValue && !HIT.has(kind);
  return (
    <div className="mt-1.5 flex gap-4 border-b border-rule pb-2">
      {isMoved && (
        <CurveView
          source={source}
          stands={state?.stands ?? null}
          share={state?.does.find((does) => does.share !== null)?.share ?? null}
        />
      )}
      <p className="leading-7">
        <Field control={control} name="source">
          {(from, onChange) => <Origin source={from} gear={gear} style={style} onChange={onChange} />}
        </Field>
        {!isValue && <PressFields control={control} kind={kind} />}
        {isMoved && <TravelFields control={control} />}
        {kind !== 'computerKey' && <PassedOn control={control} />}
        {kind === 'program' && <ProgramAdvice source={source} gear={gear} onLearn={onLearn} />}{' '}
        <Button
          look="plain"
          onClick={() => edit({ label: `take a control off ${source.role}`, gearLists: [withoutSource(gear, source)] })}
        >
          take it off
        </Button>
      </p>
    </div>
  );
}

/** Port, channel, number and coding: what of the wire plays the role. */
function Origin({
  source,
  gear,
  style,
  onChange,
}: {
  source: ControlSource;
  gear: GearList;
  style: NameStyle;
  onChange: (source: ControlSource) => void;
}) {
  if (source.kind === 'computerKey')
    return (
      <>
        <b>computer</b>, {sourceInWords(source, style)}
      </>
    );
  const ports = new Set([...inputsOf(gear).map(({ alias }) => alias), source.port]);
  return (
    <>
      <Choice
        label="port it comes by"
        className="font-bold"
        value={source.port}
        items={[...ports].map((alias) => ({ value: alias, label: alias }))}
        onChange={(port) => onChange({ ...source, port })}
      />
      , {sourceInWords(source, style)},{' '}
      <Choice
        label="channel it comes on"
        value={String(source.channel ?? 0)}
        items={[
          { value: '0', label: 'any channel' },
          ...Array.from({ length: 16 }, (_, i) => ({ value: String(i + 1), label: `channel ${i + 1}` })),
        ]}
        onChange={(value) => onChange({ ...source, channel: value === '0' ? null : Number(value) })}
      />
      {'number' in source && (
        <>
          {' '}
          · number{' '}
          <NumberField
            label="number on the wire"
            value={source.number}
            min={0}
            max={source.kind === 'controller14' ? 31 : source.kind === 'controller' ? 119 : 127}
            className="mono"
            onChange={(number) => onChange({ ...source, number })}
          />
        </>
      )}
      {source.kind === 'controller' && (
        <>
          {' '}
          ·{' '}
          <Choice
            label="how it sends"
            value={source.coding}
            items={[
              { value: 'absolute', label: 'says where it stands' },
              { value: 'twos', label: 'turns, 127 is back' },
              { value: 'offset', label: 'turns, 63 is back' },
              { value: 'signed', label: 'turns, 65 is back' },
            ]}
            onChange={(coding) => onChange({ ...source, coding })}
          />
        </>
      )}
    </>
  );
}

type FieldsProps = { control: Control<RoleSource> };

/** When a press counts. */
function PressFields({ control, kind }: FieldsProps & { kind: ControlSource['kind'] }) {
  return (
    <>
      {(kind === 'controller' || kind === 'note') && (
        <>
          {' '}
          · acts{' '}
          <ChoiceField
            control={control}
            name="button"
            label="how it acts"
            items={[
              { value: 'momentary', label: 'on the press' },
              { value: 'latching', label: 'on each change' },
            ]}
          />
        </>
      )}
      , not again within{' '}
      <NumberFormField control={control} name="guardMs" label="guard time" min={0} max={2000} step={10} unit=" ms" />
    </>
  );
}

/** How its travel becomes a value. */
function TravelFields({ control }: FieldsProps) {
  return (
    <>
      {' '}
      · <NumberFormField control={control} name="lowest" label="lowest" min={0} max={127} />–
      <NumberFormField control={control} name="highest" label="highest" min={0} max={127} /> counts,{' '}
      <Field control={control} name="reversed">
        {(on, onChange) => (
          <WordSwitch on={on} words={on ? 'reversed' : 'not reversed'} onClick={() => onChange(!on)} />
        )}
      </Field>
      , curve <NumberFormField control={control} name="curve" label="curve" min={-100} max={100} step={5} />, takes over{' '}
      <ChoiceField
        control={control}
        name="pickUp"
        label="pick-up"
        items={[
          { value: 'atOnce', label: 'at once' },
          { value: 'onMeeting', label: 'on meeting the value' },
          { value: 'drawnIn', label: 'drawn in' },
        ]}
      />
    </>
  );
}

function PassedOn({ control }: FieldsProps) {
  return (
    <>
      {' '}
      ·{' '}
      <Field control={control} name="passOn">
        {(on, onChange) => (
          <WordSwitch on={on} words={on ? 'also passed on' : 'used up here'} onClick={() => onChange(!on)} />
        )}
      </Field>
    </>
  );
}

/** A switch that reads like a word in a sentence. */
const WordSwitch = ({ on, words, onClick }: { on: boolean; words: string; onClick: () => void }) => (
  <button type="button" aria-pressed={on} onClick={onClick} className="written">
    {words}
  </button>
);
