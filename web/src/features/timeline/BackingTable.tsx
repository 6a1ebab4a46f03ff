import { useMemo, useState } from 'react';
import { backingEvents, type BackingPart } from '@rackle/core/show';
import { useGear } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';
import { MidiFileOut, type MidiFileIn } from '../midi-file';
import { outputsOf } from './newCue';
import { useTimeline } from './timelineContext';

/** The parts that the timeline plays, and the ways in and out of MIDI files. */
export function BackingTable({ midiIn }: { midiIn: MidiFileIn }) {
  const { song } = useTimeline();
  const [isOut, setIsOut] = useState(false);
  return (
    <section aria-label="backing parts as a table">
      <p className="flex flex-wrap items-center gap-2">
        {midiIn.button}
        <Button look="plain" onClick={() => setIsOut(true)}>
          save as a MIDI file
        </Button>
        {song.lyrics.length > 0 && <Lyrics />}
      </p>
      {song.backing.length === 0 ? (
        <p className="mt-2 text-ink2">No backing parts yet. Drop a MIDI file on this page: its notes become parts.</p>
      ) : (
        <table className="mt-1 w-full text-left">
          <thead>
            <tr className="text-[13px] text-ink2">
              <th className="w-[30%] font-normal">part</th>
              <th className="font-normal">played by</th>
              <th className="w-32 font-normal">notes</th>
              <th className="w-20 font-normal" />
              <th className="w-24 font-normal" />
            </tr>
          </thead>
          <tbody>
            {song.backing.map((part) => (
              <PartRow key={part.id} part={part} />
            ))}
          </tbody>
        </table>
      )}
      {isOut && <MidiFileOut song={song} onClose={() => setIsOut(false)} />}
    </section>
  );
}

function Lyrics() {
  const { song, change } = useTimeline();
  return (
    <span className="ml-auto text-ink2">
      {song.lyrics.length} lyrics{' '}
      <Button look="plain" onClick={() => change('remove the lyrics', { ...song, lyrics: [] })}>
        remove them
      </Button>
    </span>
  );
}

function PartRow({ part }: { part: BackingPart }) {
  const { song, change } = useTimeline();
  const gear = useGear();
  const { events, to } = part;
  const notes = useMemo(() => backingEvents({ events }).filter(({ kind }) => kind === 'note').length, [events]);
  const put = (label: string, next: Partial<BackingPart>): void =>
    change(label, { ...song, backing: song.backing.map((one) => (one.id === part.id ? { ...one, ...next } : one)) });
  return (
    <tr className={`border-t border-rule ${part.off ? 'text-ink2' : ''}`}>
      <td className="py-1">
        <EditableText
          label="name of the backing part"
          value={part.name}
          className="named text-lg"
          onChange={(name) => put('rename a backing part', { name })}
        />
      </td>
      <td>
        <Choice
          label={`who plays ${part.name}`}
          value={to.kind === 'layer' ? `layer ${to.layerId}` : `port ${to.port}`}
          unchosen={to.kind === 'layer' ? 'a layer that is not there' : to.port}
          groups={[
            { name: 'layers', items: song.layers.map(({ id, name }) => ({ value: `layer ${id}`, label: name })) },
            { name: 'ports', items: outputsOf({ song, gear }).map((port) => ({ value: `port ${port}`, label: port })) },
          ]}
          onChange={(chosen) => {
            const id = chosen.slice(chosen.indexOf(' ') + 1);
            const channel = to.kind === 'port' ? to.channel : 1;
            put('change who plays a backing part', {
              to: (chosen.startsWith('layer ')
                ? { kind: 'layer', layerId: id }
                : { kind: 'port', port: id, channel }) as BackingPart['to'],
            });
          }}
        />
        {to.kind === 'port' && (
          <>
            , channel{' '}
            <NumberField
              label={`channel of ${part.name}`}
              value={to.channel}
              min={1}
              max={16}
              className="mono"
              onChange={(channel) => put('change a channel', { to: { ...to, channel } })}
            />
          </>
        )}
      </td>
      <td className="mono">{notes}</td>
      <td>
        <button
          type="button"
          aria-pressed={!part.off}
          aria-label={`${part.name} plays`}
          className={`min-h-9 ${part.off ? 'line-through' : ''}`}
          onClick={() => put(part.off ? 'switch a backing part on' : 'switch a backing part off', { off: !part.off })}
        >
          {part.off ? 'off' : 'plays'}
        </button>
      </td>
      <td className="text-right">
        <Button
          look="plain"
          aria-label={`remove ${part.name}`}
          onClick={() =>
            change(`remove ${part.name}`, { ...song, backing: song.backing.filter(({ id }) => id !== part.id) })
          }
        >
          remove
        </Button>
      </td>
    </tr>
  );
}
