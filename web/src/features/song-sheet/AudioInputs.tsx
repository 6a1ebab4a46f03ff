import { useEffect, useState } from 'react';
import { BENCH_INPUT } from '../../live/door';

/** The audio inputs that there are, as suggestions for every field that names one. */
export function AudioInputs() {
  const [names, setNames] = useState<string[]>([]);
  useEffect(() => {
    let here = true;
    void navigator.mediaDevices?.enumerateDevices().then((devices) => {
      if (here) setNames(devices.filter((device) => device.kind === 'audioinput' && device.label !== '').map((device) => device.label));
    }, () => undefined);
    return () => { here = false; };
  }, []);
  return <datalist id="audio-inputs">{[BENCH_INPUT, ...names].map((name) => <option key={name} value={name} />)}</datalist>;
}
