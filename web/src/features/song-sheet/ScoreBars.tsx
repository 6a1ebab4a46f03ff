import type { Blend, Part } from '@rackle/core/show';
import { Tape } from '../../ui/Tape';

/** Height of a bar by level: −40 dB is low, 0 dB full. */
const heightOf = (levelDb: number): number => Math.max(0.14, Math.min(1, 1 + levelDb / 34));

const PAD_PX = 8;

/** A sound that stays runs on through the columns as a thin line of its tape. */
export function Run({
  part,
  tape,
  lowest,
  highest,
  comesIn,
  goesOn,
}: {
  part: Part;
  tape: string;
  lowest: number;
  highest: number;
  comesIn: boolean;
  goesOn: boolean;
}) {
  if (!comesIn && !goesOn) return null;
  const count = highest - lowest + 1;
  const at = (key: number): string =>
    `calc(${PAD_PX}px + (100% - ${2 * PAD_PX}px) * ${(Math.max(lowest, Math.min(highest + 1, key)) - lowest) / count})`;
  return (
    <span
      aria-hidden
      data-run
      className={`tape tape-${tape} absolute bottom-1.5 h-1`}
      style={{
        left: comesIn ? 0 : at(part.zone.lowKey),
        right: goesOn ? 0 : `calc(100% - ${at(part.zone.highKey + 1)})`,
      }}
    />
  );
}

/** What a blend changes of a part; undefined: nothing. */
const changeIn = (part: Part, blend: Blend | null): Blend['values'][number] | undefined =>
  blend?.values.find(
    (value) =>
      value.layerId === part.layerId &&
      Object.values(value).some((item) => item !== undefined && item !== part.layerId),
  );

/** Whether it is silent there. @param mutedNow as hands have left it; null: it does not play here now */
export const isMuted = (part: Part, blend: Blend | null, mutedNow: boolean | null): boolean =>
  mutedNow ?? changeIn(part, blend)?.mute ?? part.mute;

/** A layer’s zone in one patch or blend, as high as it is loud. */
export function Bar({
  part,
  blend,
  tape,
  lowest,
  highest,
  mutedNow,
}: {
  part: Part;
  blend: Blend | null;
  tape: string;
  lowest: number;
  highest: number;
  /** As hands have left it; null: it does not play here now. */
  mutedNow: boolean | null;
}) {
  const change = changeIn(part, blend);
  const level = change?.levelDb ?? part.levelDb;
  const muted = isMuted(part, blend, mutedNow);
  const count = highest - lowest + 1;
  const low = Math.max(lowest, part.zone.lowKey) - lowest;
  const high = Math.min(highest, part.zone.highKey) - lowest;
  if (part.keys === 'none')
    return <span className="absolute bottom-1.5 left-2 text-[11px] leading-4 text-ink2">by a role</span>;
  if (high < low) return null;
  return (
    <span className="absolute inset-x-2 bottom-1.5 top-1.5">
      <Tape
        tape={tape}
        className={`absolute bottom-0 ${muted ? 'opacity-25' : ''} ${change ? 'border-t-2 border-ink' : ''}`}
        style={{
          left: `${(low / count) * 100}%`,
          width: `max(6px, ${((high - low + 1) / count) * 100}%)`,
          height: `${heightOf(level) * 100}%`,
        }}
      />
      {muted && <span className="absolute bottom-0 left-0 bg-ground/80 px-0.5 text-[11px] leading-4">muted</span>}
    </span>
  );
}
