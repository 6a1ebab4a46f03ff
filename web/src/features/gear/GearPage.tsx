import { useApp, useDoor, useEdit, useGear, useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { Stamp } from '../../ui/Stamp';
import { gearFromPorts, type GearListId, type ProgramListening } from '@rackle/core';
import { newId } from '../../state/ids';

const MIDI_WORDS = {
  unasked: 'The machine’s own MIDI ports have not been asked for yet. The bench works without them.',
  asking: 'Asking the browser for its MIDI ports …',
  on: 'The machine’s MIDI ports are connected.',
  refused: 'The browser has refused MIDI. Allow it for this page in the browser’s site settings, then try again. The bench works meanwhile.',
  absent: 'This browser or machine has no MIDI. Use a browser with Web MIDI, and check that the machine has a MIDI system. The bench works meanwhile.',
} as const;

const listening = (programs: Exclude<ProgramListening, { kind: 'off' }>): string => (programs.kind === 'counter' ? `a counter from ${programs.lowest} to ${programs.highest}: next and previous` : `program changes recall patches${programs.bank === 'none' ? ', bank not counted' : ''}`);

/** Tonight's gear list: which ports are wanted, which are alive. */
export function GearPage() {
  const door = useDoor();
  const edit = useEdit();
  const gear = useGear();
  const setlist = useSetlist();
  const lists = useApp(({ show }) => show.working.gearLists);
  const ports = useApp(({ live }) => live.ports);
  const midi = useApp(({ live }) => live.snapshot.midi);
  const alive = (device: string, direction: string): boolean => ports.some((port) => port.alive && port.name === device && port.direction === direction);
  const rolesOn = (alias: string): string | null => {
    const roles = gear?.roles.filter((role) => role.source.port === alias).map((role) => role.role) ?? [];
    return roles.length === 0 ? null : `plays ${roles.join(' and ')}`;
  };
  const spare = ports.filter((port) => port.alive && !gear?.ports.some((wanted) => wanted.device === port.name && wanted.direction === port.direction));
  return (
    <div className="mx-auto max-w-5xl px-4 py-4">
      <div className="flex items-end gap-3 border-b border-ink pb-2">
        <h1 className="named text-4xl">Gear</h1>
        {gear && setlist && <span className="pb-1 text-lg">tonight <Choice label="gear list" className="named text-2xl" value={gear.id} groups={[{ name: '', items: Object.values(lists).map((list) => ({ value: list.id, label: list.name })) }]} onChange={(id) => edit({ label: 'change the gear list', setlists: [{ ...setlist, gearListId: id as GearListId }] })} /></span>}
        <span className="ml-auto"><Button disabled={midi === 'asking' || midi === 'on'} onClick={() => door.post({ type: 'connectMidi' })}>Connect MIDI ports</Button></span>
      </div>
      <p className={`mt-2 ${midi === 'refused' || midi === 'absent' ? 'font-bold' : 'text-ink2'}`} role="status">{MIDI_WORDS[midi]}</p>
      {!gear && <p className="mt-6 text-lg">No gear list yet: nothing that comes in is listened to. <Button onClick={() => {
        const made = gearFromPorts(newId<GearListId>('gear'), 'What is here', ports.filter((port) => port.alive));
        edit({ label: 'make a gear list', gearLists: [made], setlists: setlist ? [{ ...setlist, gearListId: made.id }] : [] });
      }}>Make one from what is here</Button></p>}
      <table className="mt-4 w-full text-left">
        <thead><tr className="text-[13px] text-ink2"><th className="w-44">what the songs call it</th><th className="w-44">what plays it tonight</th><th>what it does</th><th className="w-28">port</th><th className="w-24" /></tr></thead>
        <tbody>
          {gear?.ports.map((port) => (
            <tr key={`${port.direction} ${port.alias}`} className={`h-12 border-t border-rule ${port.on ? '' : 'opacity-50'}`}>
              <td className="named text-xl">{port.alias}</td>
              <td>{port.device}</td>
              <td className="text-ink2">{port.direction === 'out' ? 'output' : [port.plays ? 'plays layers' : null, rolesOn(port.alias), port.programs.kind === 'off' ? null : listening(port.programs), port.keyShift !== 0 ? `shifted ${port.keyShift}` : null].filter(Boolean).join(' · ')}</td>
              <td>{!port.on ? 'off' : alive(port.device, port.direction) ? 'alive' : <Stamp>no port</Stamp>}</td>
              <td><button type="button" aria-pressed={port.on} className="min-h-9 px-2 underline decoration-dotted" onClick={() => edit({ label: `switch ${port.alias}`, gearLists: [{ ...gear, ports: gear.ports.map((other) => (other === port ? { ...other, on: !other.on } : other)) }] })}>switch {port.on ? 'off' : 'on'}</button></td>
            </tr>
          ))}
        </tbody>
      </table>
      {gear && gear.roles.length > 0 && (
        <>
          <h2 className="named mt-6 text-2xl">Roles</h2>
          <table className="mt-1 w-full text-left"><tbody>
            {gear.roles.map((role, i) => (
              <tr key={i} className="h-10 border-t border-rule"><td className="named w-44 text-xl">{role.role}</td><td className="w-44">{role.source.port}</td><td className="text-ink2">{role.source.kind} {role.source.number}{role.source.channel === null ? '' : `, channel ${role.source.channel}`}</td><td>{setlist?.bindings.find((binding) => binding.role === role.role)?.action.replace(/([A-Z])/g, ' $1').toLowerCase() ?? 'does nothing in this setlist'}</td></tr>
            ))}
          </tbody></table>
        </>
      )}
      {spare.length > 0 && <p className="mt-6 text-ink2">Also here, not in this gear list: {spare.map((port) => `${port.name} (${port.direction === 'in' ? 'input' : 'output'})`).join(', ')}.</p>}
    </div>
  );
}
