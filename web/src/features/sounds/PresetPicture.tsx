import { useEffect, useState } from 'react';
import type { SoundShape } from '@rackle/core/show';
import { keyName } from '@rackle/core/midi';
import { useSetlist } from '../../state/hooks';
import { HELD_S, SOFTEST_DB, type OutlineZone, type PresetOutline } from '../../host/audio/outline';

const LOWEST_KEY = 21;
const HIGHEST_KEY = 108;
const KEYS = HIGHEST_KEY - LOWEST_KEY + 1;
const VELOCITIES = 127;
const SHOWN_S = 5;
const OCTAVE = 12;
/** Keys whose names stand below. */
const NAMED = Array.from({ length: 7 }, (_, i) => 24 + OCTAVE * i);
/** Beside each other, recordings have different grounds. */
const GROUNDS = ['fill-ground2', 'fill-rule', 'fill-ground'];

/** What a preset is made of, to be looked at: which recording plays where, and how a note rises and falls. */
export function PresetPicture({ presetId, shape }: { presetId: string; shape: SoundShape }) {
  const outline = useOutline(presetId, shape);
  const middleC = useSetlist()?.middleC ?? 'C4';
  return (
    <div className="mt-4 grid grid-cols-2 gap-x-12" data-testid="preset-picture">
      <figure>
        <figcaption className="text-[13px] text-ink2">{outline ? inWords(outline.zones) : 'reading …'}</figcaption>
        {outline && outline.zones.length > 0 && <ZonePicture zones={outline.zones} middleC={middleC} />}
      </figure>
      <figure>
        <figcaption className="text-[13px] text-ink2">
          envelope of middle C, held for two seconds{outline && outline.zones.length > 0 && ', on top of the recording'}
        </figcaption>
        <EnvelopePicture envelope={outline?.envelope ?? []} />
      </figure>
    </div>
  );
}

/** Read by a worker of its own, which ends with the page. */
function useOutline(presetId: string, shape: SoundShape): PresetOutline | null {
  const [outline, setOutline] = useState<{ presetId: string; outline: PresetOutline } | null>(null);
  const [worker, setWorker] = useState<Awaited<ReturnType<typeof startWorker>> | null>(null);
  useEffect(() => {
    let end = (): void => undefined;
    let isWanted = true;
    void startWorker().then((started) => {
      end = started.end;
      if (isWanted) setWorker(started);
      else end();
    });
    return () => {
      isWanted = false;
      end();
    };
  }, []);
  useEffect(() => {
    if (!worker) return undefined;
    let isWanted = true;
    worker
      .presetOutline(presetId, shape, (address, asked) => worker.remote.preset(address, asked).catch(() => null))
      .then(
        (found) => {
          if (isWanted) setOutline({ presetId, outline: found });
        },
        () => undefined,
      );
    return () => {
      isWanted = false;
    };
  }, [worker, presetId, shape]);
  return outline?.presetId === presetId ? outline.outline : null;
}

async function startWorker() {
  const [{ ownBankWorker }, { presetOutline }] = await Promise.all([
    import('../../host/audio/sampled/bankWorker'),
    import('../../host/audio/presetOutline'),
  ]);
  return { ...ownBankWorker(), presetOutline };
}

const many = (count: number, what: string): string => `${count} ${what}${count === 1 ? '' : 's'}`;

function inWords(zones: readonly OutlineZone[]): string {
  if (zones.length === 0) return 'made as it is played: every key and every velocity by itself';
  const recordings = new Set(zones.map(({ sample }) => sample)).size;
  const ranges = new Set(zones.map(({ lowVelocity, highVelocity }) => `${lowVelocity} ${highVelocity}`)).size;
  return `${many(recordings, 'recording')} over ${many(ranges, 'velocity range')}${ranges > 1 ? ': soft below, hard above' : ''}`;
}

const keyX = (key: number): number => Math.min(KEYS, Math.max(0, key - LOWEST_KEY));

const ZonePicture = ({ zones, middleC }: { zones: readonly OutlineZone[]; middleC: 'C3' | 'C4' }) => (
  <div className="relative mt-1 border border-ink">
    <svg viewBox={`0 0 ${KEYS} ${VELOCITIES}`} preserveAspectRatio="none" className="block h-36 w-full" aria-hidden>
      {zones.map(({ lowKey, highKey, lowVelocity, highVelocity, sample }, i) => (
        <rect
          key={i}
          x={keyX(lowKey)}
          width={Math.max(0, keyX(highKey + 1) - keyX(lowKey))}
          y={VELOCITIES - highVelocity}
          height={highVelocity - Math.max(1, lowVelocity) + 1}
          className={`${GROUNDS[sample % GROUNDS.length]} stroke-ink2`}
          strokeWidth={0.75}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
    <div className="mono relative h-5 border-t border-ink text-[11px] text-ink2" aria-hidden>
      {NAMED.map((key) => (
        <span key={key} className="absolute" style={{ left: `${(keyX(key) / KEYS) * 100}%` }}>
          {keyName(key, middleC)}
        </span>
      ))}
    </div>
  </div>
);

const EnvelopePicture = ({ envelope }: { envelope: PresetOutline['envelope'] }) => (
  <div className="relative mt-1 border border-ink">
    <svg viewBox={`0 0 ${SHOWN_S} ${-SOFTEST_DB}`} preserveAspectRatio="none" className="block h-36 w-full" aria-hidden>
      <line
        x1={HELD_S}
        x2={HELD_S}
        y1={0}
        y2={-SOFTEST_DB}
        className="stroke-rule"
        strokeDasharray="4 3"
        vectorEffect="non-scaling-stroke"
      />
      <polyline
        points={envelope.map(({ s, db }) => `${s},${-db}`).join(' ')}
        fill="none"
        className="stroke-ink"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
    </svg>
    <div className="mono relative h-5 border-t border-ink text-[11px] text-ink2" aria-hidden>
      {Array.from({ length: SHOWN_S }, (_, s) => (
        <span key={s} className="absolute" style={{ left: `${(s / SHOWN_S) * 100}%` }}>
          {s} s
        </span>
      ))}
    </div>
  </div>
);
