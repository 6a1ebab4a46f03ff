import { BENCH_INPUT } from '../../protocol';
import { useDeviceNames } from '../../state/useDeviceNames';

/** The audio inputs that there are, as suggestions for every field that names one. */
export function AudioInputs() {
  const names = useDeviceNames('audioinput');
  return (
    <datalist id="audio-inputs">
      {[BENCH_INPUT, ...names].map((name) => (
        <option key={name} value={name} />
      ))}
    </datalist>
  );
}
