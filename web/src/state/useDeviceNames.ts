import { useEffect, useState } from 'react';

/** Names of the machine's sound devices, as far as the browser tells them. */
export function useDeviceNames(kind: 'audioinput' | 'audiooutput'): string[] {
  const [names, setNames] = useState<string[]>([]);
  useEffect(() => {
    let here = true;
    void navigator.mediaDevices?.enumerateDevices().then(
      (devices) => {
        if (here)
          setNames(
            devices.filter((device) => device.kind === kind && device.label !== '').map((device) => device.label),
          );
      },
      () => undefined,
    );
    return () => {
      here = false;
    };
  }, [kind]);
  return names;
}
