import { PartRows } from './partRows';
import { LayerPlans } from './layerPlans';
import { fadeAt, quartersOf, velocityTable, type Part, type Patch, type Song } from '../../show';
import type { Registry } from '../state/registry';
import { compileBalance, parametersOf } from './balance';
import type { CompiledLayer, CompiledPatch, CompileNote, PartExtras } from './compiled';
import { compileBindings } from './controls';
import { SILENT_HEARING } from './inputFilter';
import { compileLayer, type ChannelOwners } from './layer';
import { compileMessages } from './messages';
import { placedParts, type Placed } from './placed';
import type { SongSurroundings } from './surroundings';

const NO_BINDINGS: CompiledPatch['roleBindings'] = [];

/** Flattens one patch of a song. */
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
    const compiled = compileLayer(entry, { owners, around, registry, notes });
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
      inputFilter: layer.silent || kept[i].part.keys === 'none' ? SILENT_HEARING : layer.inputFilter,
      takes: kept[i].part.keys === 'taken',
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
    plan: LayerPlans.of(layers),
    keymap,
    lives: layers.flatMap(({ live }, i) => (live === null ? [] : [i])),
    parts: new PartRows(
      kept.map(({ part: { zone, shift }, layer, transpose }, i) => ({
        lane: layers[i].lane,
        index: layers[i].index,
        lowVelocity: zone.lowVelocity,
        highVelocity: zone.highVelocity,
        shift: shift + (layer.followsTranspose ? transpose : 0),
        follows: layer.followsTranspose,
        hasExtras: extras[i] !== null,
      })),
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
