import type { OutputPort } from '@rackle/core/show';
import { useWatch, type Control } from 'react-hook-form';
import { CheckField, ChoiceField, FormRow } from '../../ui/form/fields';
import { InstrumentsOfPort } from './InstrumentsOfPort';

const PULSES: { value: OutputPort['clockPulses']; label: string }[] = [
  { value: 'always', label: 'pulses run always' },
  { value: 'playing', label: 'pulses run while it plays' },
];
const AT_LOOP: { value: OutputPort['clockAtLoop']; label: string }[] = [
  { value: 'position', label: 'a loop sends stop, position, continue' },
  { value: 'pulses', label: 'a loop sends pulses alone' },
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
      <FormRow name="system exclusive">
        <CheckField control={control} name="allowsSysex" words="may be sent here" />
      </FormRow>
    </>
  );
}
