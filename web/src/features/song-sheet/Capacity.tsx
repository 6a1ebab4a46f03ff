import type { Patch, Song } from '@rackle/core/show';
import { useApp } from '../../state/hooks';

const FINGERS = 10;
/** What an effect takes, in voices. */
const EFFECT_VOICES = 3;
const NEAR = 0.7;

/** How near a patch comes to what this machine can sound, with ten keys down in every layer that has them. */
export function Capacity({ song, patch }: { song: Song; patch: Patch }) {
  const possible = useApp(({ live }) => live.levels?.voicesPossible ?? null);
  const loadedMb = useApp(({ live }) => live.levels?.loadedMb ?? 0);
  const instruments = useApp(({ show }) => show.working.instruments);
  if (possible === null) return null;
  const voices = [...patch.parts, ...song.standing].reduce((sum, part) => {
    const layer = song.layers.find((candidate) => candidate.id === part.layerId);
    if (!layer || instruments[layer.sound.instrumentId]?.kind === 'outboard') return sum;
    const keys =
      layer.source.kind === 'live'
        ? 1
        : Math.min(FINGERS, part.zone.highKey - part.zone.lowKey + 1) * (1 + part.chord.length);
    return sum + keys + layer.effects.length * EFFECT_VOICES;
  }, 0);
  const share = voices / possible;
  return (
    <p className="text-[13px] text-ink2" data-testid="capacity">
      With all fingers down this patch is {share > 1 ? <b className="text-ink">more than</b> : 'about'}{' '}
      <b className={share > NEAR ? 'bg-ink px-1 text-ground' : 'text-ink'}>{Math.round(share * 100)} %</b> of what this
      machine can sound{loadedMb > 0 && `; sampled sounds take ${loadedMb} MB`}.
    </p>
  );
}
