import {
  OwnInstrument,
  SoundShape,
  type BuiltIn,
  type InstrumentId,
  type OwnPreset,
  type PresetId,
} from '@rackle/core/show';
import { useState } from 'react';
import { useApp, useEdit, useSongs } from '../../state/hooks';
import { newId } from '../../state/ids';
import { useAudition } from './useAudition';

const UNSHAPED = SoundShape.parse({});
const ownId = (instrument: BuiltIn): InstrumentId => `own-${instrument.id}` as InstrumentId;

/** The presets that the player has made of a built-in instrument, the one that is looked at, and what is done to it. */
export function useOwnPresets(instrument: BuiltIn) {
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
  const uses = mine
    ? songs.filter(({ layers }) => layers.some(({ sound }) => sound.presetId === mine.id)).map(({ name }) => name)
    : [];
  const shape = mine?.shape ?? UNSHAPED;
  const remove = (): void => {
    save(
      'remove a preset',
      own.presets.filter((preset) => preset !== mine),
    );
    setChosen(base.id);
    audition?.restore();
  };
  /** The layer that it is heard in the place of sounds so from now on. */
  const take = (): void =>
    audition?.keep({ instrumentId: mine ? own.id : instrument.id, presetId: chosen as PresetId });
  return { presets: own.presets, audition, chosen, mine, base, shape, uses, choose, change, make, remove, take };
}
