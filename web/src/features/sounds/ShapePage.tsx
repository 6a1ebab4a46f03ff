import { useState, type KeyboardEvent } from 'react';
import { Link } from 'react-router';
import {
  OwnInstrument,
  SoundShape,
  type BuiltIn,
  type InstrumentId,
  type OwnPreset,
  type PresetId,
} from '@rackle/core/show';
import { useApp, useEdit, useSongs } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { Slide } from '../../ui/Slide';
import { EffectSeries } from '../effects';
import { useAudition } from './useAudition';

const CONTROLS: readonly [keyof SoundShape, string, readonly [string, string]][] = [
  ['bright', 'brightness', ['dull', 'bright']],
  ['attack', 'attack', ['at once', 'slow']],
  ['decay', 'decay', ['short', 'long']],
  ['release', 'release', ['short', 'long']],
  ['touch', 'touch', ['even', 'by velocity']],
  ['vibrato', 'vibrato', ['none', 'deep']],
  ['width', 'width', ['one', 'many']],
  ['noise', 'noise', ['clean', 'breath']],
];
const UNSHAPED = SoundShape.parse({});
const ownId = (instrument: BuiltIn): InstrumentId => `own-${instrument.id}` as InstrumentId;
const signed = (value: number): string => (value > 0 ? `+${value}` : value < 0 ? `−${-value}` : '0');

/**
 * A built-in instrument: its presets, those that the player has made of them, and the handful of controls that make
 * one.
 */
export function ShapePage({ instrument }: { instrument: BuiltIn }) {
  const edit = useEdit();
  const songs = Object.values(useSongs());
  const stored = useApp(({ show }) => show.working.instruments[ownId(instrument)]);
  const own =
    stored?.kind === 'own'
      ? stored
      : OwnInstrument.parse({
          kind: 'own',
          id: ownId(instrument),
          name: `${instrument.name}, my own`,
          of: instrument.id,
        });
  const audition = useAudition(null);
  const [chosen, setChosen] = useState<string>(instrument.presets[0].id);
  const mine = own.presets.find((preset) => preset.id === chosen) ?? null;
  const base = instrument.presets.find((preset) => preset.id === (mine?.from ?? chosen)) ?? instrument.presets[0];
  const usedIn = (presetId: string): string[] =>
    songs.filter((song) => song.layers.some((layer) => layer.sound.presetId === presetId)).map((song) => song.name);
  const save = (label: string, presets: OwnPreset[], mergeKey?: string): void =>
    edit({ label, mergeKey, instruments: [{ ...own, presets }] });
  const start = (): OwnPreset => ({
    id: newId<PresetId>('own'),
    name: `${base.name}, mine` as OwnPreset['name'],
    from: base.id,
    shape: UNSHAPED,
    effects: [],
  });
  /** The player's own from here on, with what has been changed; the original stays as it is. */
  const make = (next: Partial<OwnPreset> = {}, mergeKey?: (id: string) => string): void => {
    const made = { ...start(), ...next };
    save(`make a preset of ${base.name}`, [...own.presets, made], mergeKey?.(made.id));
    setChosen(made.id);
    audition?.hear({ instrumentId: own.id, presetId: made.id });
  };
  const change = (next: Partial<OwnPreset>, label: string): void => {
    if (mine)
      save(
        label,
        own.presets.map((preset) => (preset.id === mine.id ? { ...preset, ...next } : preset)),
        `${label} ${mine.id}`,
      );
    else make(next, (id) => `${label} ${id}`);
  };
  const choose = (id: string): void => {
    setChosen(id);
    audition?.hear({
      instrumentId: own.presets.some((preset) => preset.id === id) ? own.id : instrument.id,
      presetId: id as PresetId,
    });
  };
  const uses = mine ? usedIn(mine.id) : [];
  const shape = mine?.shape ?? UNSHAPED;
  return (
    <div className="h-full overflow-y-auto px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="named text-4xl">{instrument.name}</h1>
        <span className="text-ink2">
          {instrument.about} · {instrument.memoryMb} MB · {instrument.loadMs} ms to load ·{' '}
          <Link to="/sounds" className="underline decoration-dotted">
            Sounds
          </Link>
        </span>
      </div>
      <Names title="its presets" presets={instrument.presets} chosen={chosen} onChoose={choose} />
      {own.presets.length > 0 && <Names title="made by you" presets={own.presets} chosen={chosen} onChoose={choose} />}
      <section aria-label="the preset" className="mt-3 border-t border-ink pt-3">
        <div className="flex items-center gap-3">
          {mine ? (
            <EditableText
              label="name of the preset"
              value={mine.name}
              className="named text-3xl"
              onChange={(name) => change({ name: name as OwnPreset['name'] }, 'rename a preset')}
            />
          ) : (
            <h2 className="named text-3xl">{base.name}</h2>
          )}
          <span className="text-ink2">
            {mine
              ? `made of ${base.name}`
              : 'one of Rackle’s, which stays as it is: move anything, and it goes on as yours'}
          </span>
          <span className="ml-auto flex gap-2">
            {audition && (
              <Button
                onClick={() =>
                  audition.keep({ instrumentId: mine ? own.id : instrument.id, presetId: chosen as PresetId })
                }
              >
                Take it for {audition.layer.name}
              </Button>
            )}
            <Button look={mine ? 'framed' : 'filled'} onClick={() => make()}>
              {mine ? 'Make another' : 'Make it my own'}
            </Button>
          </span>
        </div>
        <p className="mt-1 text-[13px] text-ink2">
          {audition ? (
            <>
              Heard in the place of <b className="text-ink">{audition.layer.name}</b> in {audition.song.name} while you
              are here.
            </>
          ) : (
            'No song is played, so nothing can be heard yet. Recall a patch in the strip above.'
          )}
        </p>
        <div className="mt-3 grid grid-cols-2 gap-x-12">
          {CONTROLS.map(([name, label, ends]) => (
            <Slide
              key={name}
              label={label}
              ends={ends}
              min={-100}
              max={100}
              value={shape[name]}
              show={signed}
              onChange={(value) => change({ shape: { ...shape, [name]: value } }, `change the ${label}`)}
            />
          ))}
        </div>
        <h3 className="mt-4 text-[13px] font-bold text-ink2">effects that go with it</h3>
        <EffectSeries effects={mine?.effects ?? []} onChange={(effects, label) => change({ effects }, label)} />
        {mine && (
          <p className="mt-4 text-[13px]">
            {uses.length === 0 ? (
              <Button
                look="plain"
                onClick={() => {
                  save(
                    'remove a preset',
                    own.presets.filter((preset) => preset !== mine),
                  );
                  setChosen(base.id);
                  audition?.restore();
                }}
              >
                remove it
              </Button>
            ) : (
              <span className="text-ink2">played in {uses.join(', ')}</span>
            )}
          </p>
        )}
      </section>
    </div>
  );
}

/** Presets one after the other, like words; the arrow keys go through them, and each is heard. */
function Names({
  title,
  presets,
  chosen,
  onChoose,
}: {
  title: string;
  presets: readonly { id: string; name: string }[];
  chosen: string;
  onChoose: (id: string) => void;
}) {
  const step = (event: KeyboardEvent<HTMLUListElement>): void => {
    const by =
      event.key === 'ArrowRight' || event.key === 'ArrowDown'
        ? 1
        : event.key === 'ArrowLeft' || event.key === 'ArrowUp'
          ? -1
          : 0;
    const next = by === 0 ? undefined : presets[presets.findIndex(({ id }) => id === chosen) + by];
    if (!next) return;
    event.preventDefault();
    onChoose(next.id);
    event.currentTarget.querySelectorAll('button')[presets.indexOf(next)]?.focus();
  };
  return (
    <section aria-label={title} className="mt-2">
      <h2 className="text-[13px] font-bold text-ink2">{title}</h2>
      <ul className="-ml-2 flex flex-wrap" onKeyDown={step}>
        {presets.map((preset) => (
          <li key={preset.id}>
            <button
              type="button"
              aria-pressed={preset.id === chosen}
              onClick={() => onChoose(preset.id)}
              className={`named min-h-11 px-2 text-[21px] ${preset.id === chosen ? 'bg-ink text-ground' : 'hover:bg-ground2'}`}
            >
              {preset.name}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
