import {
  soundName,
  withDuplicatedLayer,
  withJoinedLayers,
  withMovedLayer,
  withRunOn,
  withSplitRun,
  withStanding,
  withStandingInSetlist,
  withoutLayer,
  withoutPart,
  type Layer,
  type LayerId,
} from '@rackle/core/show';
import { useState, type ReactNode } from 'react';
import { BENCH_INPUT } from '../../../protocol';
import { useApp, useEdit, useSetlist } from '../../../state/hooks';
import { newId } from '../../../state/ids';
import { Button } from '../../../ui/Button';
import { Choice } from '../../../ui/Choice';
import { Question } from '../../../ui/Question';
import type { Signal } from './signal';

const newLayerId = (): LayerId => newId<LayerId>('layer');

/** Where it plays, what becomes of it: everything that is a command rather than a value. */
export function LayerCommands(signal: Signal) {
  const { song, layer, live, setSong, setLayer } = signal;
  const row = song.layers.indexOf(layer);
  return (
    <p className="mt-1 text-[13px]">
      {signal.stands ? <StandingCommands {...signal} /> : <PatchCommands {...signal} />}
      <EveningCommand {...signal} />
      <Command disabled={row <= 0} onClick={() => setSong('move a layer', withMovedLayer(song, row, row - 1))}>
        up
      </Command>
      <Command
        disabled={row >= song.layers.length - 1}
        onClick={() => setSong('move a layer', withMovedLayer(song, row, row + 1))}
      >
        down
      </Command>
      <Command onClick={() => setSong('duplicate a layer', withDuplicatedLayer(song, layer.id, newLayerId()))}>
        duplicate
      </Command>
      <JoinChoice {...signal} />{' '}
      <Command
        onClick={() =>
          setLayer(live ? 'play an instrument again' : 'take live sound', {
            source: live ? { kind: 'midi' } : { kind: 'live', input: BENCH_INPUT as Layer['name'], mono: true },
          })
        }
      >
        {live ? 'an instrument instead' : 'live sound instead'}
      </Command>
      <Command onClick={() => setSong('remove a layer', withoutLayer(song, layer.id))}>remove from the song</Command>
    </p>
  );
}

const Command = (props: { disabled?: boolean; onClick: () => void; children: ReactNode }) => (
  <Button look="plain" {...props} />
);

function StandingCommands({ song, patchId, layer, setSong }: Signal) {
  return (
    <Command onClick={() => setSong('let a layer stand no longer', withStanding(song, patchId, layer.id, false))}>
      let it play in this patch only
    </Command>
  );
}

function PatchCommands({ song, patchId, layer, setSong }: Signal) {
  const ranOn = withRunOn(song, patchId, layer.id);
  return (
    <>
      <Command onClick={() => setSong('take a layer out of a patch', withoutPart(song, patchId, layer.id))}>
        silent in this patch
      </Command>
      <Command disabled={ranOn === song} onClick={() => setSong('let a layer run on', ranOn)}>
        run on into the next
      </Command>
      <Command onClick={() => setSong('split a run', withSplitRun(song, patchId, layer.id, newLayerId()))}>
        its own layer from here
      </Command>
      <Command onClick={() => setSong('let a layer stand', withStanding(song, patchId, layer.id, true))}>
        stand through the song
      </Command>
    </>
  );
}

function EveningCommand({ song, patchId, layer }: Signal) {
  const setlist = useSetlist();
  const edit = useEdit();
  if (!setlist) return null;
  const stand = (): void => {
    const stood = withStandingInSetlist(setlist, song, patchId, layer.id, newLayerId());
    if (stood) edit({ label: 'let a layer stand through the evening', songs: [stood.song], setlists: [stood.setlist] });
  };
  return <Command onClick={stand}>through the evening</Command>;
}

const lostEffects = ({ effects }: Layer): string =>
  effects.length === 0 ? '' : effects.length === 1 ? ', its effect' : `, its ${effects.length} effects`;

/** Takes up another row; what of it would be lost is said first. */
function JoinChoice({ song, layer, setSong }: Signal) {
  const others = song.layers.filter(
    (other) => other.id !== layer.id && withJoinedLayers(song, layer.id, other.id) !== null,
  );
  const [asked, setAsked] = useState('-');
  const stored = useApp(({ show }) => show.working.instruments);
  const other = others.find(({ id }) => id === asked);
  if (others.length === 0) return null;
  const join = (otherId: LayerId): void => {
    const joined = withJoinedLayers(song, layer.id, otherId);
    setAsked('-');
    if (joined) setSong('join two layers', joined);
  };
  return (
    <>
      <Choice
        label="join with another layer"
        value="-"
        items={[
          { value: '-', label: 'join with …' },
          ...others.map(({ id, name }) => ({ value: id as string, label: name })),
        ]}
        onChange={setAsked}
      />
      {other && (
        <Question
          title={`Join ${other.name} with ${layer.name}?`}
          answers={[['Join them', () => join(other.id)]]}
          leave="leave them as they are"
          onLeave={() => setAsked('-')}
        >
          <p>
            {layer.name} will play wherever {other.name} does now, with its own sound. Of {other.name} its sound (
            <b>{soundName(other.sound, (id) => stored[id]).preset}</b>,{' '}
            {soundName(other.sound, (id) => stored[id]).instrument}){lostEffects(other)} and its name are lost. Its
            zones, levels and blends stay.
          </p>
        </Question>
      )}
    </>
  );
}
