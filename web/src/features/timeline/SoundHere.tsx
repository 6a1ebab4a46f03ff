import { Command } from 'cmdk';
import { useMemo, useState } from 'react';
import { Cue, withCue, withPatchesOf, type CueId, type LayerId, type PatchId, type Song } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Sheet } from '../../ui/Sheet';
import { allSounds, indexSounds, soundKey, type FoundSound } from '../sounds';
import { useTimeline } from './timelineContext';

const MOST_HITS = 40;
const EVERY = { kind: '', instrumentId: '', among: null };

/** A sound is searched, and its recall put where the playhead stood: the patch that has just this sound, or a new one. */
export function SoundHere({ atTick, onClose }: { atTick: number; onClose: (added: CueId | null) => void }) {
  const { song, change, showTick } = useTimeline();
  const instruments = useApp(({ show }) => show.working.instruments);
  const [query, setQuery] = useState('');
  const index = useMemo(() => indexSounds(allSounds(Object.values(instruments))), [instruments]);
  const { hits } = useMemo(() => index.find(query, EVERY, MOST_HITS), [index, query]);
  const take = ({ sound, name }: FoundSound): void => {
    if (sound === null) return;
    const there = patchOf(song, soundKey(sound));
    const mint = { layer: () => newId<LayerId>('layer'), patch: () => newId<PatchId>('patch') };
    const next = there === null ? withPatchesOf(song, [sound], mint, (id) => instruments[id]) : song;
    const id = newId<CueId>('cue');
    const patchId = there ?? next.patches[next.patches.length - 1].id;
    change(`cue ${name}`, withCue(next, Cue.parse({ kind: 'recall', id, atTick, patchId })));
    onClose(id);
  };
  return (
    <Sheet
      open
      title="A sound here"
      about={`Its recall stands at ${showTick(atTick)}; where no patch has just this sound, the song gets one.`}
      onClose={() => onClose(null)}
    >
      <Command label="sounds" shouldFilter={false}>
        <Command.Input
          value={query}
          onValueChange={setQuery}
          placeholder="a name, an instrument, a folder"
          maxLength={120}
          className="named w-full border-b border-ink bg-transparent py-2 text-2xl focus:outline-none"
        />
        <Command.List className="mt-2 max-h-72 overflow-y-auto">
          {hits.map((hit) => (
            <Command.Item
              key={hit.id}
              value={hit.id}
              className="flex min-h-10 cursor-pointer items-center gap-3 px-2 data-[selected=true]:bg-ink data-[selected=true]:text-ground"
              onSelect={() => take(hit)}
            >
              <span className="named text-xl" dir="auto">
                {hit.name}
              </span>
              <span className="ml-auto">{hit.instrument}</span>
            </Command.Item>
          ))}
          {hits.length === 0 && <p className="py-2 text-ink2">No sound of this name.</p>}
        </Command.List>
      </Command>
    </Sheet>
  );
}

/** The first patch of a song that has one layer, with this sound; null: there is none. */
function patchOf(song: Song, key: string): PatchId | null {
  const isIt = (layerId: string): boolean =>
    song.layers.some(({ id, sound }) => id === layerId && soundKey(sound) === key);
  return song.patches.find(({ parts }) => parts.length === 1 && isIt(parts[0].layerId))?.id ?? null;
}
