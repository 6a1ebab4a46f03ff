import { mixOf, changeLayer, knownInstrument } from '@rackle/core/show';
import { useApp } from '../../../state/hooks';
import { useChangeLayer } from '../../shared-layers';
import type { Signal } from './signal';

/** What the page hands in: the layer where it is looked at, and how the sheet is changed. */
export type SignalProps = Pick<
  Signal,
  'song' | 'layer' | 'part' | 'blend' | 'patchId' | 'stands' | 'middleC' | 'setSong' | 'setPart' | 'setBalance'
>;

/** The layer as its signal line shows it. */
export function useSignal(props: SignalProps): Signal {
  const { song, layer, part, blend, patchId, stands, setPart } = props;
  const stored = useApp(({ show }) => show.working.instruments);
  const changeShared = useChangeLayer();
  const change: Signal['changeLayer'] = (label, apply, mergeKey) =>
    changeShared({ song, patchId, layerId: layer.id, label, apply, mergeKey });
  const at = `${stands ? 'standing' : patchId} ${layer.id} ${blend?.id ?? ''}`;
  const inBlend = blend?.values.find((value) => value.layerId === layer.id);
  const instrument = stored[layer.sound.instrumentId];
  const outboard = instrument?.kind === 'outboard' ? instrument : null;
  const live = layer.source.kind === 'live' ? layer.source : null;
  return {
    ...props,
    at,
    change: inBlend,
    balance: mixOf(part, inBlend),
    known: knownInstrument(layer.sound.instrumentId, (id) => stored[id]),
    outboard,
    live,
    inside: outboard === null || live !== null,
    changeLayer: change,
    setLayer: (label, next, mergeKey) =>
      change(label, (of, id) => changeLayer(of, id, (current) => ({ ...current, ...next })), mergeKey),
    setZone: (label, next) =>
      setPart(label, (current) => ({ ...current, zone: { ...current.zone, ...next } }), `${label} ${at}`),
  };
}
