import { BUILT_INS, changeLayer, keyName, parseKeyName, withoutLayer, withoutPart, type Blend, type InstrumentId, type Layer, type Part, type PresetId, type Song } from '@rackle/core';
import { useApp, useGear } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice, type ChoiceGroup } from '../../ui/Choice';
import { dbText, panText, shiftText } from '../../ui/format';
import { NumberField } from '../../ui/NumberField';
import { TapeLetter, letterOf } from '../../ui/Tape';

type Balance = Partial<Pick<Part, 'levelDb' | 'pan' | 'mute' | 'room' | 'echo'>>;

interface Props {
  song: Song;
  layer: Layer;
  part: Part;
  blend: Blend | null;
  patchId: string | null;
  middleC: 'C3' | 'C4';
  onSong: (label: string, next: Song, mergeKey?: string) => void;
  onPart: (label: string, apply: (part: Part) => Part, mergeKey?: string) => void;
  onBalance: (label: string, values: Balance, mergeKey: string) => void;
}

const velocityWords = (low: number, high: number): string => (low <= 1 && high >= 127 ? 'soft to hard' : low <= 1 ? 'soft' : high >= 127 ? 'hard' : 'middle');

/** A layer's path as one readable line, edited in its place: keys → shift → sound → sends → level → output. */
export function SignalLine({ song, layer, part, blend, patchId, middleC, onSong, onPart, onBalance }: Props) {
  const stored = useApp(({ show }) => show.working.instruments);
  const outputs: string[] = useGear()?.sound.outputs.filter((output) => !output.hidden).map((output) => output.name) ?? ['Main'];
  const at = `${patchId ?? 'standing'} ${layer.id} ${blend?.id ?? ''}`;
  const change = blend?.values.find((value) => value.layerId === layer.id);
  const balance = { levelDb: change?.levelDb ?? part.levelDb, pan: change?.pan ?? part.pan, mute: change?.mute ?? part.mute, room: change?.room ?? part.room, echo: change?.echo ?? part.echo };
  const setLayer = (label: string, next: Partial<Layer>): void => onSong(label, changeLayer(song, layer.id, (current) => ({ ...current, ...next })));
  const groups: ChoiceGroup[] = [
    ...BUILT_INS.map((instrument) => ({ name: `${instrument.name}: ${instrument.about}`, items: instrument.presets.map((preset) => ({ value: `${instrument.id}|${preset.id}`, label: preset.name })) })),
    ...Object.values(stored).map((instrument) => ({ name: instrument.name, items: instrument.names.map((name) => ({ value: `${instrument.id}|${name.id}`, label: name.name })) })),
  ];
  const builtInName = BUILT_INS.find((instrument) => instrument.id === layer.sound.instrumentId)?.name;
  const outboard = builtInName ? null : stored[layer.sound.instrumentId];
  const zone = (label: string, next: Partial<Part['zone']>): void => onPart(label, (current) => ({ ...current, zone: { ...current.zone, ...next } }), `${label} ${at}`);
  const key = (label: string, value: number, min: number, max: number, apply: (value: number) => void) => (
    <NumberField label={label} value={value} min={min} max={max} show={(number) => keyName(number, middleC)} read={(text) => parseKeyName(text, middleC)} className="mono" onChange={apply} />
  );
  const number = (label: string, name: keyof Omit<typeof balance, 'mute'>, min: number, max: number, step: number, show: (value: number) => string) => (
    <NumberField label={label} value={balance[name]} min={min} max={max} step={step} show={show} onChange={(value) => onBalance(`change ${label}`, { [name]: value }, `${name} ${at}`)} />
  );
  return (
    <div>
      <div className="flex items-center gap-2">
        <TapeLetter tape={layer.tape} letter={letterOf(song.layers.indexOf(layer))} />
        <h2 className="named text-2xl">{layer.name}</h2>
        <span className="ml-auto flex text-[13px]">
          <Toggle on={balance.mute} name="mute" onClick={() => onBalance(balance.mute ? 'unmute' : 'mute', { mute: !balance.mute }, `mute ${at} ${String(balance.mute)}`)} />
          <Toggle on={part.solo} name="solo" onClick={() => onPart('solo', (current) => ({ ...current, solo: !current.solo }))} />
        </span>
      </div>
      <p className="mt-2 text-[17px] leading-9">
        Keys {key('lowest key', part.zone.lowKey, 0, part.zone.highKey, (lowKey) => zone('change a zone', { lowKey }))} to {key('highest key', part.zone.highKey, part.zone.lowKey, 127, (highKey) => zone('change a zone', { highKey }))},
        {' '}{velocityWords(part.zone.lowVelocity, part.zone.highVelocity)} <NumberField label="lowest velocity" value={part.zone.lowVelocity} min={1} max={part.zone.highVelocity} className="mono" onChange={(lowVelocity) => zone('change velocities', { lowVelocity })} />–<NumberField label="highest velocity" value={part.zone.highVelocity} min={part.zone.lowVelocity} max={127} className="mono" onChange={(highVelocity) => zone('change velocities', { highVelocity })} />
        {' '}· <NumberField label="shift" value={part.shift} min={-72} max={72} show={shiftText} read={readShift} onChange={(shift) => onPart('change the shift', (current) => ({ ...current, shift }), `shift ${at}`)} />
        {' '}· {builtInName ?? outboard?.name ?? 'no instrument'}, <Choice label="preset" value={`${layer.sound.instrumentId}|${layer.sound.presetId}`} groups={groups} onChange={(value) => {
          const [instrumentId, presetId] = value.split('|');
          setLayer('change the sound', { sound: { ...layer.sound, instrumentId: instrumentId as InstrumentId, presetId: presetId as PresetId, channel: instrumentId === layer.sound.instrumentId ? layer.sound.channel : null } });
        }} />
        {outboard && <> on {outboard.port}, channel <NumberField label="channel" value={layer.sound.channel ?? outboard.channel} min={1} max={16} className="mono" onChange={(channel) => setLayer('change the channel', { sound: { ...layer.sound, channel } })} /></>}
        {!outboard && <> · room {number('room', 'room', 0, 100, 1, (value) => `${Math.round(value)} %`)} · echo {number('echo', 'echo', 0, 100, 1, (value) => `${Math.round(value)} %`)}</>}
        {' '}· {number('level', 'levelDb', -60, 6, 0.5, dbText)}, {number('pan', 'pan', -100, 100, 1, panText)}
        {outboard ? <> · <Choice label="level by controllers" value={layer.sendsLevel ? 'yes' : 'no'} groups={[{ name: '', items: [{ value: 'no', label: 'level and pan as they are there' }, { value: 'yes', label: 'level and pan sent as controllers 7 and 10' }] }]} onChange={(value) => setLayer('change how the level is sent', { sendsLevel: value === 'yes' })} /></>
          : <> · <Choice label="output" value={layer.output} groups={[{ name: '', items: [...new Set([...outputs, layer.output as string])].map((name) => ({ value: name, label: name })) }]} onChange={(output) => setLayer('change the output', { output: output as Layer['output'] })} /></>}
      </p>
      <p className="mt-1 text-ink2">
        At a recall its held notes{' '}
        <Choice label="carry" value={layer.carry.kind} groups={[{ name: '', items: [{ value: 'hold', label: 'hold until released' }, { value: 'fade', label: 'fade' }, { value: 'cut', label: 'are cut' }] }]} onChange={(kind) => setLayer('change the carry', { carry: kind === 'fade' ? { kind: 'fade', fadeMs: 1500 } : { kind: kind as 'hold' | 'cut' } })} />
        {layer.carry.kind === 'fade' && <> over <NumberField label="fade time" value={layer.carry.fadeMs} min={0} max={60_000} step={100} unit=" ms" onChange={(fadeMs) => setLayer('change the fade', { carry: { kind: 'fade', fadeMs } })} /></>}.
        {' '}{builtInName ? <MemoryNote instrumentId={layer.sound.instrumentId} /> : outboard && `${outboard.name} takes ${outboard.switchMs} ms to switch.`}
        {blend && <> Level, pan, mute and sends belong to the blend “{blend.name}”.</>}
      </p>
      <p className="mt-2 text-[13px]">
        {patchId !== null && <Button look="plain" onClick={() => onSong('take a layer out of a patch', withoutPart(song, patchId, layer.id))}>silent in this patch</Button>}
        <Button look="plain" onClick={() => onSong('remove a layer', withoutLayer(song, layer.id))}>remove from the song</Button>
      </p>
    </div>
  );
}

/** What a built-in instrument takes: its memory, and the time to load it. */
function MemoryNote({ instrumentId }: { instrumentId: string }) {
  const instrument = BUILT_INS.find((candidate) => candidate.id === instrumentId);
  return instrument ? <>{instrument.name} takes {instrument.memoryMb} MB and {instrument.loadMs} ms to load.</> : null;
}

/** “+12”, “-7”, “up 3”, “down an octave”: in semitones. */
function readShift(text: string): number | null {
  const number = Number(text.replace('−', '-').replace(/^\s*down\s*/i, '-').replace(/^\s*up\s*/i, '').replace(/an octave/i, '12'));
  return text.trim() === '' || !Number.isInteger(number) ? null : number;
}

function Toggle({ on, name, onClick }: { on: boolean; name: string; onClick: () => void }) {
  return <button type="button" aria-pressed={on} onClick={onClick} className={`min-h-9 px-2 ${on ? 'bg-ink font-bold text-ground' : 'underline decoration-dotted underline-offset-4'}`}>{name}</button>;
}
