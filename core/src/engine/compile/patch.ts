import { fadeAt, quartersOf, velocityTable, type Part, type Patch, type Song } from '../../show';
import type { Registry } from '../state/registry';
import { compileBalance, parametersOf } from './balance';
import {
  FLAG_CARRY_SHIFT,
  FLAG_EFFECTS,
  FLAG_LOOPS,
  FLAG_OUTBOARD,
  FLAG_SENDS_LEVEL,
  FLAG_SILENT,
  FLAG_SIXTEEN_LANES,
  FLAG_STAYS,
  STAY,
  packZone,
  type CompiledLayer,
  type CompiledPatch,
  type CompileNote,
  type PartExtras,
} from './compiled';
import { compileBindings } from './controls';
import { SILENT_HEARING } from './inputFilter';
import { compileLayer, type ChannelOwners } from './layer';
import { compileMessages } from './messages';
import { placedParts, type Placed } from './placed';
import type { SongSurroundings } from './surroundings';

const NO_BINDINGS: CompiledPatch['roleBindings'] = [];

export function compilePatch(
  song: Song,
  patch: Patch,
  around: SongSurroundings,
  registry: Registry,
  notes: CompileNote[],
): CompiledPatch {
  const placed = placedParts(song, patch, around.setlist, notes);
  const owners: ChannelOwners = { addresses: new Map(), levels: new Set() };
  const layers: CompiledLayer[] = [];
  const kept: Placed[] = [];
  for (const entry of placed) {
    const compiled = compileLayer(entry, owners, around, registry, notes);
    if (!compiled) continue;
    layers.push(compiled);
    kept.push(entry);
  }
  const column = <T>(pick: (entry: Placed) => T): T[] => kept.map(pick);
  const lowKey = Uint8Array.from(column((entry) => entry.part.zone.lowKey));
  const highKey = Uint8Array.from(column((entry) => entry.part.zone.highKey));
  const extras = kept.map(({ part }, i) => partExtras(part, layers[i].recording !== null));
  const keymap = around.keymaps.keymap(
    layers.map((layer, i) => ({
      inputFilter: layer.silent ? SILENT_HEARING : layer.inputFilter,
      lowKey: lowKey[i],
      highKey: highKey[i],
    })),
  );
  const parameters = parametersOf(kept, layers, patch);
  return {
    songId: song.id,
    patchId: patch.id,
    song: song.name,
    name: patch.name,
    layers,
    plan: planOf(layers),
    keymap,
    lives: layers.flatMap(({ live }, i) => (live === null ? [] : [i])),
    parts: Int32Array.from(
      kept.flatMap(({ part, layer, transpose }, i) => [
        layers[i].lane,
        layers[i].index,
        packZone(
          part.zone.lowVelocity,
          part.zone.highVelocity,
          part.shift + (layer.followsTranspose ? transpose : 0),
          layer.followsTranspose,
        ),
        extras[i] === null ? 0 : 1,
      ]),
    ),
    curve: column((entry) => velocityTable(entry.part.velocity, entry.part.zone)),
    extras,
    lowKey,
    highKey,
    parameters: parameters.map(({ lane, lanes, controller }) => ({ lane, lanes, controller })),
    entering: compileMessages(patch.entering, around, registry, notes, `${song.name}, ${patch.name}`),
    leaving: compileMessages(patch.leaving, around, registry, notes, `${song.name}, ${patch.name}`),
    balances: [null, ...patch.blends].map((blend) => compileBalance(kept, layers, blend, parameters, around)),
    roleBindings:
      around.bindsLayers || song.bindings.length > 0 || patch.bindings.length > 0
        ? compileBindings([patch.bindings, song.bindings, around.setlist.bindings], registry, {
            partOf: (layerId) => kept.findIndex(({ layer }) => layer.id === layerId),
            faderOf: (part) => layers[part].layerKey,
            effectsOf: (part) => layers[part].effects,
            setlistEffects: around.setlistEffects,
          })
        : NO_BINDINGS,
  };
}

function planOf(layers: readonly CompiledLayer[]): Int32Array {
  return Int32Array.from(
    layers.flatMap((layer) => [
      layer.index,
      layer.lane,
      layer.destination,
      (layer.outboard ? FLAG_OUTBOARD : 0) |
        (layer.notReady === STAY ? FLAG_STAYS : 0) |
        (layer.silent ? FLAG_SILENT : 0) |
        (layer.sendsLevel ? FLAG_SENDS_LEVEL : 0) |
        (layer.effects.length > 0 ? FLAG_EFFECTS : 0) |
        (layer.recording?.plays === 'loop' ? FLAG_LOOPS : 0) |
        (layer.lanes === 16 ? FLAG_SIXTEEN_LANES : 0) |
        (layer.carry << FLAG_CARRY_SHIFT),
    ]),
  );
}

function partExtras(part: Part, isRecording: boolean): PartExtras | null {
  const { zone, chord, arpeggio } = part;
  const fades = zone.fadeLowKeys > 0 || zone.fadeHighKeys > 0;
  if (!fades && chord.length === 0 && arpeggio === null && !isRecording) return null;
  return {
    chord: Int8Array.from(chord),
    keyFade: fades
      ? Uint8Array.from({ length: 128 }, (_, key) =>
          Math.round(127 * fadeAt(key, zone.lowKey, zone.highKey, zone.fadeLowKeys, zone.fadeHighKeys)),
        )
      : null,
    arpeggio:
      arpeggio === null
        ? null
        : {
            order: arpeggio.order,
            quarters: quartersOf(arpeggio.note),
            octaves: arpeggio.octaves,
            gate: arpeggio.gate / 100,
          },
  };
}
