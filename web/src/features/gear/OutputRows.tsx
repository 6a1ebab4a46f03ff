import type { OutputPort } from '@rackle/core/show';
import { useWatch, type Control } from 'react-hook-form';
import { Choice } from '../../ui/Choice';
import { CheckField, ChoiceField, Field, FormRow } from '../../ui/form/fields';
import { NumberField } from '../../ui/NumberField';
import { InstrumentsOfPort } from './InstrumentsOfPort';

const PULSES: { value: OutputPort['clockPulses']; label: string }[] = [
  { value: 'always', label: 'pulses run always' },
  { value: 'playing', label: 'pulses run while it plays' },
];
const AT_LOOP: { value: OutputPort['clockAtLoop']; label: string }[] = [
  { value: 'position', label: 'a loop sends stop, position, continue' },
  { value: 'pulses', label: 'a loop sends pulses alone' },
];
const OFFSETS = [
  { value: 'sound', label: 'heard together with Rackle’s own sound' },
  { value: 'own', label: 'later by' },
];

/** What only outputs have. */
export function OutputRows({ alias, control }: { alias: string; control: Control<OutputPort> }) {
  const getsClock = useWatch({ control, name: 'sendsClock' });
  return (
    <>
      <FormRow name="instruments there">
        <InstrumentsOfPort alias={alias} />
      </FormRow>
      <FormRow name="clock">
        <CheckField control={control} name="sendsClock" words="gets clock, start, stop and song position" />
        {getsClock && (
          <span className="mt-1 flex flex-wrap gap-x-3">
            <ChoiceField control={control} name="clockPulses" label="when its pulses run" items={PULSES} />
            <ChoiceField control={control} name="clockAtLoop" label="what it gets at a loop" items={AT_LOOP} />
          </span>
        )}
      </FormRow>
      <FormRow name="timeline">
        <Field control={control} name="offsetMs">
          {(offsetMs, onChange) => (
            <span className="flex flex-wrap items-baseline gap-x-2">
              <Choice
                label="when the timeline sends here"
                value={offsetMs === null ? 'sound' : 'own'}
                items={OFFSETS}
                onChange={(chosen) => onChange(chosen === 'sound' ? null : 0)}
              />
              {offsetMs !== null && (
                <NumberField
                  label="how much later the timeline sends here"
                  value={offsetMs}
                  min={0}
                  max={100}
                  unit=" ms"
                  className="mono"
                  onChange={onChange}
                />
              )}
            </span>
          )}
        </Field>
      </FormRow>
      <FormRow name="system exclusive">
        <CheckField control={control} name="allowsSysex" words="may be sent here" />
      </FormRow>
    </>
  );
}
