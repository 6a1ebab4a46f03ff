import { ProgramListening, type GearList, type InputPort } from '@rackle/core/show';
import type { Control } from 'react-hook-form';
import { keyName, parseKeyName } from '@rackle/core/midi';
import { useEdit, useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { Check, CheckField, ChoiceField, Field, FormRow, ListField, NumberFormField } from '../../ui/form/fields';
import { NumberField } from '../../ui/NumberField';
import { ChannelPicker } from './ChannelPicker';

const PROGRAMS: readonly { value: ProgramListening['kind']; label: string }[] = [
  { value: 'direct', label: 'recall what the program map says' },
  { value: 'counter', label: 'count: only their direction matters' },
  { value: 'off', label: 'are not listened to' },
];
const PEDALS = [
  { item: 64, words: 'sustain' },
  { item: 66, words: 'sostenuto' },
  { item: 67, words: 'soft' },
  { item: 11, words: 'expression' },
  { item: 4, words: 'foot' },
] as const;

interface Props {
  gear: GearList;
  /** As it is stored: what shows depends on it. */
  port: InputPort;
  control: Control<InputPort>;
}

/** What only inputs have: what their keys, programs and pedals do. */
export function InputRows(props: Props) {
  const { gear, port, control } = props;
  const others = gear.ports.filter((other): other is InputPort => other.direction === 'in' && other !== port);
  return (
    <>
      <KeyRows {...props} />
      <FormRow name="program changes">
        <Field control={control} name="programs">
          {(programs, onChange) => <Programs programs={programs} onChange={onChange} />}
        </Field>
      </FormRow>
      {port.programs.kind === 'direct' && (
        <FormRow name="buttons">
          <Field control={control} name="buttons">
            {(buttons, onChange) => <Buttons buttons={buttons} onChange={onChange} />}
          </Field>
        </FormRow>
      )}
      <FormRow name="reversed pedals">
        <ListField control={control} name="reversedPedals" items={PEDALS} />
      </FormRow>
      <FormRow name="ignored pedals">
        <ListField control={control} name="ignoredPedals" items={PEDALS} />
      </FormRow>
      <FormRow name="its pedals also for">
        <ListField
          control={control}
          name="pedalsFor"
          items={others.filter(({ plays }) => plays).map(({ alias }) => ({ item: alias, words: alias }))}
        />
      </FormRow>
      <FormRow name="the same as">
        <ChoiceField
          control={control}
          name="doubleOf"
          label="double of"
          none="no other port"
          items={others.map(({ alias }) => ({ value: alias, label: alias }))}
        />
        {port.doubleOf !== null && ' (heard only while that one is away)'}
      </FormRow>
      <FormRow name="each note">
        <CheckField control={control} name="perNote" words="on a channel of its own" />
      </FormRow>
      <ClockRow {...props} />
    </>
  );
}

function KeyRows({ port, control }: Props) {
  return (
    <>
      <FormRow name="its keys">
        <span className="flex flex-wrap gap-x-3">
          <CheckField control={control} name="plays" words="play layers" />
          {port.plays && (
            <Field control={control} name="playsOn">
              {(channels, onChange) => (
                <ChannelPicker
                  label="channels that play"
                  none="on every channel"
                  value={channels}
                  onChange={onChange}
                />
              )}
            </Field>
          )}
        </span>
      </FormRow>
      <FormRow name="it has">
        <Field control={control} name="keys">
          {(keys, onChange) => <KeysThere keys={keys} onChange={onChange} />}
        </Field>
      </FormRow>
      <FormRow name="whole keyboard">
        <NumberFormField
          control={control}
          name="keyShift"
          label="shift of the keyboard"
          min={-60}
          max={60}
          unit=" semitones"
        />{' '}
        before the zones
      </FormRow>
      <FormRow name="listened to">
        <Field control={control} name="channels">
          {(channels, onChange) => (
            <ChannelPicker label="channels listened to" none="on every channel" value={channels} onChange={onChange} />
          )}
        </Field>
      </FormRow>
    </>
  );
}

/** Which keys a keyboard has, as far as somebody has said. */
function KeysThere({ keys, onChange }: { keys: InputPort['keys']; onChange: Setter<InputPort['keys']> }) {
  const style = useSetlist()?.middleC ?? 'C4';
  if (keys === null)
    return (
      <>
        keys that nobody has counted{' '}
        <Button look="plain" onClick={() => onChange(EIGHTY_EIGHT)}>
          say which
        </Button>
      </>
    );
  const keyField = (label: string, end: 'lowest' | 'highest') => (
    <NumberField
      label={label}
      value={keys[end]}
      min={end === 'lowest' ? 0 : keys.lowest}
      max={end === 'lowest' ? keys.highest : 127}
      show={(key) => keyName(key, style)}
      read={(text) => parseKeyName(text, style)}
      form="a key like C3"
      className="mono"
      onChange={(key) => onChange({ ...keys, [end]: key })}
    />
  );
  return (
    <>
      {keys.highest - keys.lowest + 1} keys, {keyField('its lowest key', 'lowest')} to{' '}
      {keyField('its highest key', 'highest')}{' '}
      <Button look="plain" onClick={() => onChange(null)}>
        not said
      </Button>
    </>
  );
}

/** From A0 to C8. */
const EIGHTY_EIGHT = { lowest: 21, highest: 108 };

type Setter<T> = (value: T) => void;

function Programs({ programs, onChange }: { programs: ProgramListening; onChange: Setter<ProgramListening> }) {
  return (
    <>
      <Choice
        label="program changes"
        value={programs.kind}
        items={PROGRAMS}
        onChange={(kind) => onChange(ProgramListening.parse({ kind }))}
      />
      {programs.kind === 'direct' && (
        <>
          ,{' '}
          <Choice
            label="bank"
            value={programs.bank}
            items={[
              { value: 'both', label: 'with both bank bytes' },
              { value: 'lsb', label: 'with the bank’s LSB' },
              { value: 'none', label: 'whatever the bank' },
            ]}
            onChange={(bank) => onChange({ ...programs, bank })}
          />
        </>
      )}
      {programs.kind === 'counter' && (
        <>
          {' '}
          from{' '}
          <NumberField
            label="lowest number"
            value={programs.lowest}
            min={0}
            max={126}
            className="mono"
            onChange={(lowest) => onChange({ ...programs, lowest })}
          />{' '}
          to{' '}
          <NumberField
            label="highest number"
            value={programs.highest}
            min={1}
            max={127}
            className="mono"
            onChange={(highest) => onChange({ ...programs, highest })}
          />{' '}
          (on the wire)
        </>
      )}
    </>
  );
}

type ButtonsOf = InputPort['buttons'];

function Buttons({ buttons, onChange }: { buttons: ButtonsOf; onChange: Setter<ButtonsOf> }) {
  if (buttons === null)
    return (
      <Button look="plain" onClick={() => onChange({ count: 6, pages: 1, repeats: true })}>
        it has buttons that can be programmed
      </Button>
    );
  return (
    <>
      <NumberField
        label="buttons at a time"
        value={buttons.count}
        min={1}
        max={64}
        className="mono"
        onChange={(count) => onChange({ ...buttons, count })}
      />{' '}
      at a time,{' '}
      <NumberField
        label="pages"
        value={buttons.pages}
        min={1}
        max={128}
        className="mono"
        onChange={(pages) => onChange({ ...buttons, pages })}
      />{' '}
      pages,{' '}
      <Check
        name="pressed again, a button sends again"
        on={buttons.repeats}
        onChange={(repeats) => onChange({ ...buttons, repeats })}
      />{' '}
      <Button look="plain" onClick={() => onChange(null)}>
        none
      </Button>
    </>
  );
}

/** Which input leads the timeline is the gear list's, not the port's. */
function ClockRow({ gear, port }: Props) {
  const edit = useEdit();
  return (
    <FormRow name="its clock">
      <Check
        name="leads the timeline"
        on={gear.clockFrom === port.alias}
        onChange={(on) =>
          edit({ label: 'change the clock', gearLists: [{ ...gear, clockFrom: on ? port.alias : null }] })
        }
      />
    </FormRow>
  );
}
