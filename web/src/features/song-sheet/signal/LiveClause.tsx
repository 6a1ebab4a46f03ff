import { Choice } from '../../../ui/Choice';
import type { Signal } from './signal';

/** Where live sound comes in. */
export function LiveClause({ live, setLayer }: { live: NonNullable<Signal['live']>; setLayer: Signal['setLayer'] }) {
  return (
    <>
      Live sound from{' '}
      <LiveInput
        input={live.input}
        onChange={(input) => setLayer('change the live input', { source: { ...live, input } })}
      />
      ,{' '}
      <Choice
        label="channels of the live sound"
        value={live.mono ? 'mono' : 'stereo'}
        items={[
          { value: 'mono', label: 'mono, to both sides' },
          { value: 'stereo', label: 'left and right as they come' },
        ]}
        onChange={(value) => setLayer('change the live sound', { source: { ...live, mono: value === 'mono' } })}
      />
    </>
  );
}

type InputName = NonNullable<Signal['live']>['input'];

/** An audio input, by the name that the machine has for it. */
function LiveInput({ input, onChange }: { input: InputName; onChange: (input: InputName) => void }) {
  return (
    <input
      aria-label="audio input"
      list="audio-inputs"
      key={input}
      defaultValue={input}
      size={Math.max(6, input.length)}
      className="written bg-transparent focus:outline-none"
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
      onBlur={(event) => {
        const name = event.target.value.trim().slice(0, 120);
        if (name !== '' && name !== input) onChange(name as InputName);
        else event.target.value = input;
      }}
    />
  );
}
