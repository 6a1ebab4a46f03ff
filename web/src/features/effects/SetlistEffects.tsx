import { SharedEffect, newEffect, type EffectId, type Setlist } from '@rackle/core/show';
import { useEdit, useSetlist, useSongs } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { dbText } from '../../ui/format';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';
import { EffectSeries } from './EffectSeries';

const MOST = 8;

/**
 * Effects of the whole setlist: those that layers are sent to, made by the player, and those on everything that leaves.
 */
export function SetlistEffects() {
  const setlist = useSetlist();
  const songs = Object.values(useSongs());
  const edit = useEdit();
  if (!setlist) return null;
  const change = (label: string, next: Partial<Setlist>, mergeKey?: string): void =>
    edit({ label, mergeKey, setlists: [{ ...setlist, ...next }] });
  const setShared = (shared: SharedEffect, next: Partial<SharedEffect>, label: string): void =>
    change(
      label,
      {
        sharedEffects: setlist.sharedEffects.map((other) => (other.id === shared.id ? { ...shared, ...next } : other)),
      },
      `${label} ${shared.id}`,
    );
  const nextName = (): string => {
    let n = setlist.sharedEffects.length + 1;
    while (setlist.sharedEffects.some(({ name }) => name === `Shared ${n}`)) n++;
    return `Shared ${n}`;
  };
  /** Songs keep calling an effect by its name: a new name goes into them too. */
  const rename = (shared: SharedEffect, name: string): void => {
    const renamed = <T extends { sends?: { to: string; percent: number }[] }>(item: T): T =>
      item.sends?.some(({ to }) => to === shared.name)
        ? { ...item, sends: item.sends.map((send) => (send.to === shared.name ? { ...send, to: name } : send)) }
        : item;
    const touched = songs
      .map((song) => ({
        ...song,
        standing: song.standing.map(renamed),
        patches: song.patches.map((patch) => ({
          ...patch,
          parts: patch.parts.map(renamed),
          blends: patch.blends.map((blend) => ({ ...blend, values: blend.values.map(renamed) })),
        })),
      }))
      .filter((song, i) => JSON.stringify(song) !== JSON.stringify(songs[i]));
    edit({
      label: 'rename a shared effect',
      songs: touched as typeof songs,
      setlists: [
        {
          ...setlist,
          sharedEffects: setlist.sharedEffects.map((other) =>
            other.id === shared.id ? { ...shared, name: name as SharedEffect['name'] } : other,
          ),
        },
      ],
    });
  };
  return (
    <div className="text-[13px]">
      <h3 className="mt-4 font-bold text-ink2">shared effects of this setlist, besides room and echo</h3>
      {setlist.sharedEffects.map((shared) => (
        <section key={shared.id} aria-label={shared.name} className="border-b border-rule py-1">
          <p className="flex items-baseline gap-2">
            <EditableText
              label="name of the shared effect"
              value={shared.name}
              className="named text-base"
              width="8rem"
              check={(text) =>
                setlist.sharedEffects.some((other) => other !== shared && other.name === text.trim())
                  ? 'another one has this name'
                  : null
              }
              onChange={(name) => rename(shared, name)}
            />
            back at{' '}
            <NumberField
              label={`level of ${shared.name}`}
              value={shared.levelDb}
              min={-60}
              max={6}
              step={0.5}
              show={dbText}
              onChange={(levelDb) => setShared(shared, { levelDb }, 'change the level of a shared effect')}
            />
            <Button
              look="plain"
              className="ml-auto"
              aria-label={`take ${shared.name} away`}
              onClick={() =>
                change('take a shared effect away', {
                  sharedEffects: setlist.sharedEffects.filter((other) => other !== shared),
                })
              }
            >
              ×
            </Button>
          </p>
          <EffectSeries
            effects={shared.effects}
            isShared
            onChange={(effects, label) => setShared(shared, { effects }, label)}
          />
        </section>
      ))}
      {setlist.sharedEffects.length < MOST && (
        <Button
          look="plain"
          onClick={() =>
            change('make a shared effect', {
              sharedEffects: [
                ...setlist.sharedEffects,
                SharedEffect.parse({
                  id: newId<EffectId>('effect'),
                  name: nextName(),
                  effects: [newEffect('reverb', newId<EffectId>('effect'), true)],
                }),
              ],
            })
          }
        >
          make one
        </Button>
      )}
      <h3 className="mt-3 font-bold text-ink2">on everything that leaves</h3>
      <EffectSeries
        effects={setlist.wholeEffects}
        onChange={(wholeEffects, label) => change(label, { wholeEffects }, `${label} whole`)}
      />
    </div>
  );
}
