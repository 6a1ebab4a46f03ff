import { useEffect, useState } from 'react';
import type { Recording } from '@rackle/core/show';
import { fileAddress } from '../../files/fileAddress';

const COLUMNS = 600;

/** The whole recording as it is, what is cut off dimmed. */
export function Waveform({ recording }: { recording: Recording }) {
  const [peaks, setPeaks] = useState<Float32Array | null>(null);
  useEffect(() => {
    let wanted = true;
    void peaksOf(recording.file).then((found) => {
      if (wanted) setPeaks(found);
    });
    return () => {
      wanted = false;
    };
  }, [recording.file]);
  const share = (value: number): number => (value / Math.max(0.001, recording.lengthSeconds)) * COLUMNS;
  const end = recording.endSeconds ?? recording.lengthSeconds;
  return (
    <svg
      viewBox={`0 0 ${COLUMNS} 60`}
      preserveAspectRatio="none"
      className="mt-1 h-14 w-full border-y border-rule"
      role="img"
      aria-label={`${recording.name} as a line`}
    >
      {peaks && (
        <path
          d={Array.from(peaks, (peak, i) => `M${i + 0.5} ${30 - peak * 29}V${30 + peak * 29}`).join('')}
          stroke="var(--ink)"
          strokeWidth={1}
        />
      )}
      <rect x={0} y={0} width={share(recording.startSeconds)} height={60} fill="var(--ground)" opacity={0.8} />
      <rect
        x={share(end)}
        y={0}
        width={Math.max(0, COLUMNS - share(end))}
        height={60}
        fill="var(--ground)"
        opacity={0.8}
      />
    </svg>
  );
}

async function peaksOf(hash: string): Promise<Float32Array | null> {
  try {
    const answer = await fetch(fileAddress(hash));
    const decoded = await new OfflineAudioContext(1, 1, 44_100).decodeAudioData(await answer.arrayBuffer());
    const samples = decoded.getChannelData(0);
    const size = Math.max(1, Math.floor(samples.length / COLUMNS));
    return Float32Array.from({ length: COLUMNS }, (_, i) => {
      let peak = 0;
      for (let at = i * size; at < Math.min(samples.length, (i + 1) * size); at++)
        peak = Math.max(peak, Math.abs(samples[at]));
      return Math.min(1, peak);
    });
  } catch {
    return null;
  }
}
