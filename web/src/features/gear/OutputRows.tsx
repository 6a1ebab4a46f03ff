import type { OutputPort } from '@rackle/core/show';
import type { Control } from 'react-hook-form';
import { CheckField, FormRow } from '../../ui/form/fields';
import { InstrumentsOfPort } from './InstrumentsOfPort';

/** What only outputs have. */
export function OutputRows({ alias, control }: { alias: string; control: Control<OutputPort> }) {
  return (
    <>
      <FormRow name="instruments there">
        <InstrumentsOfPort alias={alias} />
      </FormRow>
      <FormRow name="clock">
        <CheckField control={control} name="sendsClock" words="gets clock, start, stop and song position" />
      </FormRow>
      <FormRow name="system exclusive">
        <CheckField control={control} name="allowsSysex" words="may be sent here" />
      </FormRow>
    </>
  );
}
