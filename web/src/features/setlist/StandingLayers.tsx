import { soundName, type Part, type Setlist } from '@rackle/core/show';
import { keyName, parseKeyName } from '@rackle/core/midi';
import { useApp, useEdit } from '../../state/hooks';
import { withEveningZone } from '../../state/useEvening';
import { Button } from '../../ui/Button';
import { dbText } from '../../ui/format';
import { KeysChoice } from '../../ui/KeysChoice';
import { NumberField } from '../../ui/NumberField';
import { TapeLetter, letterOf } from '../../ui/Tape';

/** Layers that sound through the whole evening, whatever is recalled; a song sheet makes one of a layer of its own. */
export function StandingLayers({ setlist }: { setlist: Setlist }) {
  const edit = useEdit();
  const instruments = useApp(({ show }) => show.working.instruments);
  const change = (label: string, next: Partial<Setlist>, mergeKey?: string): void =>
    edit({ label, mergeKey, setlists: [{ ...setlist, ...next }] });
  const setPart = (part: Part, label: string, next: Partial<Part>): void =>
    change(
      label,
      { standing: setlist.standing.map((other) => (other === part ? { ...part, ...next } : other)) },
      `${label} ${part.layerId}`,
    );
  if (setlist.standing.length === 0) return null;
  return (
    <section aria-label="standing through the evening">
      <h2 className="mt-6 text-[13px] font-bold text-ink2">standing through the evening</h2>
      <ul>
        {setlist.standing.map((part, i) => {
          const layer = setlist.layers.find((candidate) => candidate.id === part.layerId);
          if (!layer) return null;
          const { instrument, preset } = soundName(layer.sound, (id) => instruments[id]);
          return (
            <li key={layer.id} className="flex min-h-10 flex-wrap items-center gap-x-2 border-b border-rule py-1">
              <TapeLetter tape={layer.tape} letter={letterOf(i)} />
              <span className="min-w-0 flex-1">
                <span className="named block truncate text-lg leading-5">{layer.name}</span>
                <span className="block truncate text-xs text-ink2">
                  {preset}, {instrument}
                </span>
              </span>
              <span className="text-[13px]">
                {part.keys !== 'none' && <ZoneFields setlist={setlist} part={part} name={layer.name} />}{' '}
                <KeysChoice
                  label={`whose the keys of ${layer.name} are`}
                  value={part.keys}
                  onChange={(keys) => setPart(part, 'change whose keys they are', { keys })}
                />
              </span>
              <span className="text-[13px]">
                <NumberField
                  label={`level of ${layer.name}`}
                  value={part.levelDb}
                  min={-60}
                  max={6}
                  step={0.5}
                  show={dbText}
                  onChange={(levelDb) => setPart(part, 'change the level of a standing layer', { levelDb })}
                />
              </span>
              <Button
                look="plain"
                aria-pressed={part.mute}
                onClick={() => setPart(part, part.mute ? 'unmute' : 'mute', { mute: !part.mute })}
              >
                {part.mute ? 'unmute' : 'mute'}
              </Button>
              <Button
                look="plain"
                aria-label={`let ${layer.name} stand no longer`}
                onClick={() =>
                  change('take a standing layer away', {
                    layers: setlist.layers.filter((other) => other !== layer),
                    standing: setlist.standing.filter((other) => other !== part),
                  })
                }
              >
                ×
              </Button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Its keys, from the lowest to the highest. */
function ZoneFields({ setlist, part, name }: { setlist: Setlist; part: Part; name: string }) {
  const edit = useEdit();
  const { middleC } = setlist;
  return (['lowKey', 'highKey'] as const).map((end) => (
    <span key={end}>
      {end === 'highKey' && ' – '}
      <NumberField
        label={`${end === 'lowKey' ? 'lowest' : 'highest'} key of ${name}`}
        value={part.zone[end]}
        min={end === 'lowKey' ? 0 : part.zone.lowKey}
        max={end === 'lowKey' ? part.zone.highKey : 127}
        show={(key) => keyName(key, middleC)}
        read={(text) => parseKeyName(text, middleC)}
        form="a key such as C4, or its number"
        className="mono"
        onChange={(key) =>
          edit({
            label: 'change a zone',
            mergeKey: `evening zone ${part.layerId}`,
            setlists: [withEveningZone(setlist, part.layerId, { [end]: key })],
          })
        }
      />
    </span>
  ));
}
